interface Props {
  readonly name: string;
  readonly value: string;
  readonly detail: string;
  readonly testId?: string;
}

/** A number with its name above and a word below. */
export function Figure({ name, value, detail, testId }: Props) {
  return (
    <div>
      <dt className="text-quiet text-sm">{name}</dt>
      <dd>
        <span className="figure text-lg" data-testid={testId}>
          {value}
        </span>
        {detail && <span className="text-quiet block text-sm">{detail}</span>}
      </dd>
    </div>
  );
}

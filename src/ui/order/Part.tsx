import { Choices, type Choice } from './Choices.tsx';

interface Props<Value extends string> {
  readonly name: string;
  readonly value: Value | null;
  readonly choices: readonly Choice<Value>[];
  readonly onChange: (value: Value) => void;
}

/** One thing that is chosen of the picture, under its name. */
export function Part<Value extends string>({ name, ...choices }: Props<Value>) {
  return (
    <div className="mt-2">
      <h3 className="text-quiet text-sm">Picture: {name}</h3>
      <Choices label={`${name.charAt(0).toUpperCase()}${name.slice(1)}`} {...choices} />
    </div>
  );
}

import { RadioGroup } from 'radix-ui';

export interface Choice<Value extends string> {
  readonly value: Value;
  readonly label: string;
  readonly hint?: string;
  /** Why it cannot be chosen. */
  readonly missing?: string | undefined;
}

interface Props<Value extends string> {
  readonly label: string;
  readonly choices: readonly Choice<Value>[];
  readonly value: Value | null;
  readonly onChange: (value: Value) => void;
}

/** A short list of which one holds. */
export function Choices<Value extends string>({ label, choices, value, onChange }: Props<Value>) {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value ?? ''}
      onValueChange={(chosen) => onChange(chosen as Value)}
      className="flex flex-col"
    >
      {choices.map((choice) => (
        <RadioGroup.Item
          key={choice.value}
          value={choice.value}
          disabled={choice.missing !== undefined}
          className="group enabled:hover:bg-sunk flex items-baseline gap-2 rounded px-2 py-1 text-left disabled:opacity-60"
        >
          <span
            aria-hidden="true"
            className="border-quiet group-data-[state=checked]:border-ember group-data-[state=checked]:bg-ember size-2.5 shrink-0 rounded-full border"
          />
          <span>
            {choice.label}
            {(choice.missing ?? choice.hint) && (
              <span className="text-quiet block text-sm">{choice.missing ?? choice.hint}</span>
            )}
          </span>
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}

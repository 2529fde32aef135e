import { ToggleGroup } from 'radix-ui';

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

/** More lie in two columns: a list must not leave the window. */
const MOST_IN_A_COLUMN = 5;

/**
 * A short list of which one holds. The arrows walk through it and change nothing; Enter, Space or a press takes one.
 */
export function Choices<Value extends string>({ label, choices, value, onChange }: Props<Value>) {
  return (
    <ToggleGroup.Root
      type="single"
      orientation="vertical"
      aria-label={label}
      value={value ?? ''}
      // What holds already and is taken again stays.
      onValueChange={(chosen) => onChange((chosen || value) as Value)}
      className={choices.length > MOST_IN_A_COLUMN ? 'columns-2 gap-x-3' : 'flex flex-col'}
    >
      {choices.map((choice) => (
        <ToggleGroup.Item
          key={choice.value}
          value={choice.value}
          disabled={choice.missing !== undefined}
          className="group enabled:hover:bg-sunk flex w-full break-inside-avoid items-baseline gap-2 rounded px-2 py-1 text-left disabled:opacity-60"
        >
          <span
            aria-hidden="true"
            className="border-quiet group-data-[state=on]:border-ember group-data-[state=on]:bg-ember size-2.5 shrink-0 rounded-full border"
          />
          <span>
            {choice.label}
            {(choice.missing ?? choice.hint) && (
              <span className="text-quiet block text-sm">{choice.missing ?? choice.hint}</span>
            )}
          </span>
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

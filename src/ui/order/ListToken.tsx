import { Choices, type Choice } from './Choices.tsx';
import { Token } from './Token.tsx';

/** One value out of a list, taken with a press. */
export function ListToken<Value extends string>({
  label,
  value,
  choices,
  problem,
  onChange,
}: {
  readonly label: string;
  readonly value: Value;
  readonly choices: readonly Choice<Value>[];
  readonly problem: string | undefined;
  readonly onChange: (value: Value) => void;
}) {
  return (
    <Token
      isWide={choices.length > 6}
      label={label}
      text={choices.find((one) => one.value === value)?.label ?? value}
      problem={problem}
    >
      {(close) => (
        <Choices
          label={label}
          value={value}
          choices={choices}
          onChange={(taken) => {
            onChange(taken);
            close();
          }}
        />
      )}
    </Token>
  );
}

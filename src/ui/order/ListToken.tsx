import type { Choice } from './Choices.tsx';
import { PickToken } from './PickToken.tsx';

interface Props<Value extends string> {
  readonly label: string;
  readonly value: Value;
  readonly choices: readonly Choice<Value>[];
  readonly problem: string | undefined;
  readonly onChange: (value: Value) => void;
}

/** One value out of a list, taken with a press; it reads as the list calls it. */
export function ListToken<Value extends string>({ onChange, ...list }: Props<Value>) {
  const { value, choices } = list;
  const text = choices.find((one) => one.value === value)?.label ?? value;
  return <PickToken {...list} isWide={choices.length > 6} text={text} onPick={onChange} />;
}

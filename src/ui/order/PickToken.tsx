import type { ReactNode } from 'react';
import { Choices, type Choice } from './Choices.tsx';
import { Token } from './Token.tsx';
import { TypedField, type TypedFieldProps } from './TypedField.tsx';

interface Props<Value extends string, Typed> {
  readonly label: string;
  readonly text: string;
  readonly problem: string | undefined;
  /** For lists in two columns. */
  readonly isWide?: boolean;
  readonly value: Value | null;
  readonly choices: readonly Choice<Value>[];
  readonly onPick: (value: Value) => void;
  /** How another value is typed, where the list has not all of them. */
  readonly typed?: Omit<TypedFieldProps<Typed>, 'onLeave'>;
  /** What may be chosen besides. */
  readonly children?: ReactNode;
}

/** A value of a sentence that is taken from a short list, or typed below it. */
export function PickToken<Value extends string, Typed = never>({
  label,
  text,
  problem,
  isWide = false,
  value,
  choices,
  onPick,
  typed,
  children,
}: Props<Value, Typed>) {
  return (
    <Token isWide={isWide} label={label} text={text} problem={problem}>
      {(close) => (
        <>
          <Choices
            label={label}
            value={value}
            choices={choices}
            onChange={(picked) => {
              onPick(picked);
              close();
            }}
          />
          {typed && (
            <div className="border-rule mt-2 border-t pt-2">
              <TypedField {...typed} onLeave={close} />
            </div>
          )}
          {children}
        </>
      )}
    </Token>
  );
}

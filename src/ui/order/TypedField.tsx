import clsx from 'clsx';
import { useEffect, useId, useState } from 'react';
import { withMinus } from '../../core/text.ts';
import { useGesture } from '../hooks/gesture.ts';
import { parseRate } from '../kit/format.ts';

/** What a field that is typed into is about. */
export interface TypedFieldProps<Value> {
  readonly label: string;
  readonly value: Value;
  readonly write: (value: Value) => string;
  /** @returns The value, or the sentence that says what is wrong. */
  readonly read: (text: string) => { readonly value: Value } | { readonly fault: string };
  readonly onChange: (value: Value) => void;
  readonly unit?: string;
  readonly hint?: string;
  readonly hasFocus?: boolean;
  /** Enter or Escape was pressed. */
  readonly onLeave?: () => void;
}

/**
 * A field that shows what comes of its value while typing, whenever what is typed can be read, and says so when it
 * cannot. Enter takes it, Escape leaves it as it was; either way it is one change.
 */
export function TypedField<Value>({
  label,
  value,
  write,
  read,
  onChange,
  unit,
  hint,
  hasFocus,
  onLeave,
}: TypedFieldProps<Value>) {
  const gesture = useGesture();
  // What is open over the page may go without the field hearing of it.
  useEffect(() => () => gesture.end(), [gesture]);
  /** null while nothing is typed: then what holds is shown, wherever it was changed. */
  const [text, setText] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const id = useId();
  const take = (typed: string) => {
    setText(typed);
    const outcome = read(typed);
    if ('fault' in outcome) {
      setFault(outcome.fault);
      return;
    }
    setFault(null);
    if (write(outcome.value) !== write(value)) onChange(outcome.value);
  };
  return (
    <div className="mb-1">
      <label htmlFor={id} className="text-quiet block text-sm">
        {label}
      </label>
      <div className="flex items-center gap-2">
        <input
          id={id}
          value={text ?? write(value)}
          autoFocus={hasFocus}
          onFocus={(event) => {
            event.target.select();
            gesture.begin();
          }}
          onBlur={() => {
            gesture.end();
            // What cannot be read changed nothing.
            setText(null);
            setFault(null);
          }}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' && event.key !== 'Escape') return;
            if (event.key === 'Enter' && fault !== null) return;
            event.preventDefault();
            event.stopPropagation();
            if (event.key === 'Escape') gesture.cancel();
            event.currentTarget.blur();
            onLeave?.();
          }}
          onChange={(event) => take(event.target.value)}
          aria-invalid={fault !== null}
          aria-describedby={`${id}-said`}
          autoComplete="off"
          spellCheck={false}
          className="figure border-rule bg-paper aria-invalid:border-wrong w-full min-w-0 rounded border px-2 py-1"
        />
        {unit && <span className="text-quiet shrink-0">{unit}</span>}
      </div>
      <p id={`${id}-said`} className={clsx('mt-0.5 text-sm', fault ? 'text-wrong' : 'text-quiet')}>
        {fault ?? hint}
      </p>
    </div>
  );
}

/** Reads a whole number within limits. */
export function readWhole(least: number, most: number, what: string) {
  return (text: string): { value: number } | { fault: string } => {
    const value = Number(text.trim().replaceAll(',', ''));
    const isGood = text.trim() !== '' && Number.isInteger(value) && value >= least && value <= most;
    return isGood
      ? { value }
      : { fault: `Type ${what} from ${least.toLocaleString('en')} to ${most.toLocaleString('en')}.` };
  };
}

/**
 * Reads a text that may be left empty.
 *
 * @param faultIn - Says what is wrong with one; null for nothing.
 */
export function readOptional(faultIn: (text: string) => string | null) {
  return (text: string): { value: string | null } | { fault: string } => {
    if (text === '') return { value: null };
    const fault = faultIn(text);
    return fault === null ? { value: text } : { fault };
  };
}

/** Reads a rate in kb/s, or with its unit, within limits. */
export function readRate(least: number, most: number) {
  return (text: string): { value: number } | { fault: string } => {
    const bitsPerSecond = parseRate(text);
    const value = bitsPerSecond === null ? NaN : Math.round(bitsPerSecond / 1000);
    return value >= least && value <= most
      ? { value }
      : {
          fault: `Type a rate from ${least.toLocaleString('en')} to ${most.toLocaleString('en')} kb/s, such as 4000, 4M or 4 Mb/s.`,
        };
  };
}

/**
 * Reads a number within limits, with a hyphen or a minus sign in front.
 *
 * @param parts - Of one that are told apart: 10 for tenths.
 * @param what - As in “Type … from 0 to 60.”
 */
export function readDecimal(least: number, most: number, parts: number, what: string) {
  return (text: string): { value: number } | { fault: string } => {
    const value = Number(text.trim().replace('−', '-'));
    return text.trim() !== '' && value >= least && value <= most
      ? { value: Math.round(value * parts) / parts }
      : { fault: `Type ${what} from ${withMinus(least)} to ${withMinus(most)}.` };
  };
}

import { faultInName } from '../../core/naming/outputName.ts';
import { readOptional, TypedField } from './TypedField.tsx';

interface Props {
  readonly name: string | null;
  /** What it is called where nothing is typed; null while that is not known. */
  readonly proposed: string | null;
  readonly onName: (name: string | null) => void;
  readonly keepFailed: boolean;
  readonly onKeepFailed: (keep: boolean) => void;
}

/** What the file is called, and whether it stays where a check fails. */
export function FileSection({ name, proposed, onName, keepFailed, onKeepFailed }: Props) {
  return (
    <section>
      <TypedField
        label="File: its name"
        value={name}
        write={(value) => value ?? ''}
        read={readOptional(faultInName)}
        onChange={onName}
        hint={proposed === null ? 'Left empty, it is named as files of this order are.' : `Left empty: ${proposed}`}
      />
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1 accent-(--ember)"
          checked={keepFailed}
          onChange={(event) => onKeepFailed(event.target.checked)}
        />
        Keep the file even when a check fails, marked as not verified
      </label>
    </section>
  );
}

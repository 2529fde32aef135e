interface Props {
  /** For whoever does not see it. */
  readonly label: string;
  /** What is looked through. */
  readonly placeholder: string;
  readonly words: string;
  readonly onWords: (words: string) => void;
  /** How wide it is, and where. */
  readonly className: string;
}

/** Finds as one types. */
export function SearchField({ label, placeholder, words, onWords, className }: Props) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      value={words}
      onChange={(event) => onWords(event.target.value)}
      className={`border-rule bg-sheet rounded border px-2 py-1 ${className}`}
    />
  );
}

/** Characters at the end that stay in sight: the ending, and what tells names that begin alike apart. */
const KEPT_AT_END = 16;

/** A name on one line; where it is too long its middle is left out, since names differ at their ends. */
export function MiddleCut({ text, className = '' }: { readonly text: string; readonly className?: string }) {
  const characters = Array.from(text);
  const cut = Math.max(Math.ceil(characters.length / 2), characters.length - KEPT_AT_END);
  return (
    <span className={`relative flex min-w-0 ${className}`} title={text}>
      <span className="sr-only">{text}</span>
      <span aria-hidden="true" className="truncate whitespace-pre">
        <bdi>{characters.slice(0, cut).join('')}</bdi>
      </span>
      <span aria-hidden="true" className="shrink-0 whitespace-pre">
        <bdi>{characters.slice(cut).join('')}</bdi>
      </span>
    </span>
  );
}

/** The same for text that may run over several lines. */
export function cutMiddle(text: string, longest: number): string {
  const characters = Array.from(text);
  if (characters.length <= longest) return text;
  const end = Math.min(KEPT_AT_END, Math.floor(longest / 2));
  return `${characters.slice(0, longest - end - 1).join('')}…${characters.slice(-end).join('')}`;
}

/** Programmes that were chosen in the list, on their way to the page of a new batch; they outlive a reload. */
const KEY = 'linstock-chosen-programmes';

export function keepChosen(ids: readonly string[]): void {
  sessionStorage.setItem(KEY, JSON.stringify(ids));
}

export function readChosen(): string[] {
  const kept: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? '[]');
  return Array.isArray(kept) ? kept.filter((one) => typeof one === 'string') : [];
}

/** A number of things with the word that goes with it: `1 master`, `1,204 masters`. */
export function count(number: number, one: string, many: string): string {
  return `${number.toLocaleString('en')} ${number === 1 ? one : many}`;
}

/** The parts of a change that are given; what is not stays as it is. */
export function givenOf<Change extends object>(change: Change): Partial<Change> {
  return Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined)) as Partial<Change>;
}

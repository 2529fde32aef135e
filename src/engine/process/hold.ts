/** Whether work is to stand still where it is. */
export interface Hold {
  readonly isHeld: () => boolean;
  /** @returns A function that ends the subscription. */
  readonly onChange: (listener: () => void) => () => void;
}

/** A hold with its grip. */
export interface HeldWork extends Hold {
  readonly set: (isHeld: boolean) => void;
}

/** Work that goes on until it is held. */
export function createHold(): HeldWork {
  const listeners = new Set<() => void>();
  let held = false;
  return {
    isHeld: () => held,
    onChange: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    set: (isHeld) => {
      if (held === isHeld) return;
      held = isHeld;
      for (const listener of listeners) listener();
    },
  };
}

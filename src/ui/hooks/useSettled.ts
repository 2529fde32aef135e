import { useEffect, useState } from 'react';

/** A value once it has stayed the same for a while: what costs something is not asked for at every step of a drag. */
export function useSettled<Value>(value: Value, delayMs: number): Value {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), delayMs);
    return () => clearTimeout(timer);
  }, [value, delayMs]);
  return settled;
}

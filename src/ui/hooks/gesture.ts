'use client';

import { createContext, useContext } from 'react';
import type { Gesture } from './useUndoable.ts';

const NONE: Gesture = { begin: () => undefined, end: () => undefined, cancel: () => undefined };

const GestureContext = createContext<Gesture>(NONE);

/** Given by whoever remembers the changes. */
export const GestureProvider = GestureContext.Provider;

/** For everything that is dragged or typed in: tells when it begins, ends, or is taken back. */
export const useGesture = (): Gesture => useContext(GestureContext);

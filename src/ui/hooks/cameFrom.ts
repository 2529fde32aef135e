'use client';

import { createContext, useContext } from 'react';

const CameFrom = createContext<string | null>(null);

/** Given by the frame around all pages. */
export const CameFromProvider = CameFrom.Provider;

/** The page of this application that was open before; null when this is the first. */
export const useCameFrom = (): string | null => useContext(CameFrom);

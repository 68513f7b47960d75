'use client';

import { createContext } from 'react';

/** The brief that the person works on. */
export const BriefContext = createContext(0);

'use client';

import { useEffect, useState } from 'react';

/** A value once it has not changed for so long: what is typed is asked for when typing rests. */
export function useRested<T>(value: T, ms: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return rested;
}

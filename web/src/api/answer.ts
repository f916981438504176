import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

/** A value once it has rested for so many milliseconds; the first at once. */
export function useRested<T>(value: T, rest: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    if (!rest) return;
    const timer = setTimeout(() => setRested(value), rest);
    return () => clearTimeout(timer);
  }, [value, rest]);
  return rest ? rested : value;
}

/**
 * What the server works out, asked anew when what it is about has changed and rested; until the next answer comes the last one
 * stands. Nothing is asked about `undefined`. (What follows a hand with every frame is asked by the workbench.)
 */
export function useAnswer<T>(
  name: string,
  about: unknown,
  ask: (signal: AbortSignal) => Promise<T>,
  rest = 0,
): T | undefined {
  const key = useRested(about === undefined ? undefined : JSON.stringify(about), rest);
  return useQuery({
    queryKey: [name, key],
    queryFn: ({ signal }) => ask(signal),
    enabled: key !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 20_000,
    retry: false,
  }).data;
}

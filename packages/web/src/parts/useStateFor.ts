import { useCallback, useState } from 'react';

/**
 * State that holds for one `key` and begins anew with another, without an effect that would draw the old state once
 * more.
 *
 *     const [active, setActive] = useStateFor(query, 0);
 */
export function useStateFor<T>(key: unknown, first: T): [T, (next: T | ((now: T) => T)) => void] {
  const [state, setState] = useState({ key, value: first });
  const set = useCallback(
    (next: T | ((now: T) => T)) =>
      setState((now) => {
        const value = now.key === key ? now.value : first;
        return { key, value: typeof next === 'function' ? (next as (now: T) => T)(value) : next };
      }),
    [key, first],
  );
  return [state.key === key ? state.value : first, set];
}

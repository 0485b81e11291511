import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { SweepRunView } from '@rellin/contract';
import { get } from '../api/client';

const DAY_MS = 86_400_000;

export const useSweepLog = () => useQuery({ queryKey: ['sweeps', 'log'], queryFn: () => get('/sweeps/log') });

/** The last sweep that ran by itself, for a day: what was done without asking is told where the person starts. */
export function useSweptByItself(): SweepRunView | undefined {
  const last = useSweepLog().data?.find((run) => run.by === 'automatic');
  const [now] = useState(() => Date.now());
  return last && last.undoneAt === null && now - Date.parse(last.at) < DAY_MS ? last : undefined;
}

/** What is asked of the server, in each of its states: loading, failed with a button that tries again, or there. */
import { useState, type ReactNode } from 'react';
import Button from '@mui/material/Button';
import type { UseQueryResult } from '@tanstack/react-query';
import { EmptyState } from './EmptyState';
import './Loaded.css';

type Asked<T> = Pick<UseQueryResult<T>, 'data' | 'error'> & { refetch(): unknown };

interface LoadedProps<T> {
  of: Asked<T>;
  /** What it is, as a sentence begins with it: "The plan". */
  what: string;
  children(data: T): ReactNode;
}

/** What was loaded once stays on the page while it is loaded again, and where that fails. */
export function Loaded<T>({ of, what, children }: LoadedProps<T>) {
  if (of.data !== undefined) return children(of.data);
  if (of.error)
    return <NotLoaded title={`${what} could not be loaded`} error={of.error} onAgain={() => void of.refetch()} />;
  return <Loading />;
}

export function Loading() {
  return (
    <p className="small loading" role="status">
      Loading…
    </p>
  );
}

/**
 * Whether each was answered or failed: what stands below or beside them moves no more. Once known they stay so, also
 * where one that failed is tried again by what is shown then.
 */
export function useKnown(...all: readonly Asked<unknown>[]): boolean {
  const [were, setWere] = useState(false);
  const known = were || all.every((one) => one.data !== undefined || one.error);
  if (known && !were) setWere(true);
  return known;
}

/** Several that are shown together: there when all are, failed when one is; tried again are those that failed. */
export function together(all: readonly Asked<unknown>[]): Asked<true> {
  return {
    data: all.every((one) => one.data !== undefined) ? true : undefined,
    error: all.find((one) => one.error)?.error ?? null,
    refetch: () => all.forEach((one) => one.error && one.refetch()),
  };
}

/** What could not be loaded, why, and a button that tries again. */
export function NotLoaded({ title, error, onAgain }: { title: string; error: Error; onAgain(): void }) {
  return (
    <EmptyState
      title={title}
      action={
        <Button variant="contained" onClick={onAgain}>
          Try again
        </Button>
      }
    >
      {error.message}
    </EmptyState>
  );
}

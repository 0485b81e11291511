/** What is asked of the server, in each of its states: on its way, not to be had with a way to try again, or there. */
import type { ReactNode } from 'react';
import Button from '@mui/material/Button';
import type { UseQueryResult } from '@tanstack/react-query';
import { EmptyState } from './EmptyState';
import './Loaded.css';

interface LoadedProps<T> {
  of: Pick<UseQueryResult<T>, 'data' | 'error' | 'refetch'>;
  /** What it is, as a sentence begins with it: "The plan". */
  what: string;
  children(data: T): ReactNode;
}

/** What was loaded once stays shown while it is asked again, also where that fails. */
export function Loaded<T>({ of, what, children }: LoadedProps<T>) {
  if (of.data !== undefined) return children(of.data);
  if (of.error)
    return <NotLoaded title={`${what} could not be loaded`} error={of.error} onAgain={() => void of.refetch()} />;
  return (
    <p className="small loading" role="status">
      {what} is being loaded …
    </p>
  );
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

import Button from '@mui/material/Button';
import { EmptyState } from './EmptyState';

/** What could not be read, why, and a button that tries again. */
export function CannotRead(props: { title: string; error: Error; onAgain(): unknown }) {
  return (
    <EmptyState
      title={props.title}
      action={
        <Button variant="contained" onClick={() => void props.onAgain()}>
          Try again
        </Button>
      }
    >
      {props.error.message}
    </EmptyState>
  );
}

import { useNavigate } from 'react-router';
import Button from '@mui/material/Button';
import { EmptyState } from './EmptyState';

/** The address names something that was removed. */
export function GoneState({ what }: { what: string }) {
  const navigate = useNavigate();
  return (
    <EmptyState
      title={`That ${what} is not here any more`}
      action={
        <Button variant="contained" onClick={() => void navigate('/bin')}>
          Look in the bin
        </Button>
      }
    >
      It was removed, perhaps in another window.
    </EmptyState>
  );
}

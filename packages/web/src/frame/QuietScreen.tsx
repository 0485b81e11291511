import Button from '@mui/material/Button';
import { EmptyState } from '../parts/EmptyState';
import { useWorkspaceActions } from '../workspace/workspace';

/** What stands in place of every view while others can see the screen; pins still open by their keys. */
export function QuietScreen() {
  const { setQuiet } = useWorkspaceActions();
  return (
    <main className="view" id="view">
      <h1 className="hidden-text">Quiet screen</h1>
      <EmptyState
        title="Quiet screen"
        action={
          <Button variant="contained" onClick={() => setQuiet(false)}>
            Show everything again
          </Button>
        }
      >
        Names, recents and counts are hidden. Your pins still open by their keys, and the find line finds what you type.
        H brings everything back.
      </EmptyState>
    </main>
  );
}

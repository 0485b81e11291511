import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import SnackbarContent from '@mui/material/SnackbarContent';
import { useCommands } from '../workspace/useCommands';
import { useNotice, useWorkspaceActions } from '../workspace/workspace';

export function Notices() {
  const { notice } = useNotice();
  const { silence } = useWorkspaceActions();
  const d = useCommands();
  if (!notice) return null;
  const trouble = notice.tone === 'trouble';
  return (
    <Snackbar
      key={notice.id}
      open
      autoHideDuration={trouble ? 12_000 : 5_000}
      onClose={(_, reason) => reason !== 'clickaway' && silence()}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
      className="notice"
    >
      <SnackbarContent
        role={trouble ? 'alert' : 'status'}
        message={notice.text}
        sx={trouble ? { borderLeft: '5px solid var(--brick)', maxWidth: 640 } : { maxWidth: 640 }}
        action={
          <>
            {notice.remedies?.map(({ label, run }) => (
              <Button
                key={label}
                color="inherit"
                onClick={() => {
                  silence();
                  run();
                }}
              >
                {label}
              </Button>
            ))}
            {notice.undo && (
              <Button
                color="inherit"
                onClick={() => {
                  silence();
                  void d.undo();
                }}
              >
                Undo
              </Button>
            )}
            {trouble && (
              <Button color="inherit" onClick={silence}>
                Close
              </Button>
            )}
          </>
        }
      />
    </Snackbar>
  );
}

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Stack from '@mui/material/Stack';

export interface FormDialogProps {
  title: string;
  submit: string;
  children: React.ReactNode;
  onSubmit: (event: React.FormEvent) => void;
  onClose: () => void;
  busy?: boolean;
  wide?: boolean;
  /** What it does cannot be undone. */
  danger?: boolean;
}

/** The frame of every small form. */
export function FormDialog({ title, submit, children, onSubmit, onClose, busy, wide, danger }: FormDialogProps) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="form-title" maxWidth={wide ? 'md' : 'sm'}>
      <form onSubmit={onSubmit} noValidate>
        <DialogTitle id="form-title">{title}</DialogTitle>
        <DialogContent>
          <Stack spacing={2} sx={{ pt: 1 }}>
            {children}
          </Stack>
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button variant="outlined" onClick={onClose}>
            Cancel
          </Button>
          <Button variant="contained" type="submit" disabled={busy} color={danger ? 'error' : 'primary'}>
            {submit}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

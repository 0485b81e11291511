import { useState } from 'react';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import { actItems } from './ActMenu';
import type { Act } from './acts';

/** All acts on something behind one button. */
export function MoreButton({ acts }: { acts: readonly Act[] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button variant="outlined" aria-haspopup="menu" onClick={(event) => setAnchor(event.currentTarget)}>
        More
      </Button>
      {anchor && (
        <Menu
          anchorEl={anchor}
          open
          onClose={() => setAnchor(null)}
          slotProps={{ list: { dense: true, 'aria-label': 'More acts' } }}
        >
          {actItems(acts, () => setAnchor(null))}
        </Menu>
      )}
    </>
  );
}

import { useState } from 'react';
import ExpandMore from '@mui/icons-material/ExpandMore';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import { actItems } from './ActMenu';
import type { Act } from './acts';

/** All acts on something behind one button. */
export function MoreButton({
  acts,
  small,
}: {
  acts: readonly Act[];
  /** A chip that says what it is about. */ small?: string;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const open = (event: React.MouseEvent<HTMLElement>) => setAnchor(event.currentTarget);
  return (
    <>
      {small === undefined ? (
        <Button variant="outlined" aria-haspopup="menu" onClick={open}>
          More
        </Button>
      ) : (
        <button type="button" className="chip" aria-haspopup="menu" aria-label={`More about ${small}`} onClick={open}>
          More
          <ExpandMore aria-hidden className="chevron" />
        </button>
      )}
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

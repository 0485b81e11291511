import { useState, type ComponentProps } from 'react';
import ChevronRight from '@mui/icons-material/ChevronRight';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { CommandKey } from '../parts/KeyCap';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';
import type { Act } from './acts';
import { useRowActs } from './useActs';

/** The context menu of whatever was pointed at; of all that is chosen, where that is part of it. */
export function ActMenu({ route }: { route: string }) {
  const { menu } = useDialogs();
  const { closeMenu } = useWorkspaceActions();
  const { actsOf } = useRowActs(route);
  if (!menu) return null;
  return (
    <Menu
      open
      onClose={closeMenu}
      anchorReference="anchorPosition"
      anchorPosition={{ left: menu.x, top: menu.y }}
      slotProps={{ list: { 'aria-label': 'Acts', dense: true } }}
    >
      {actItems(actsOf(menu.item, menu.within), closeMenu)}
    </Menu>
  );
}

/**
 * The items of a menu of acts: a rule between two groups, and what is needed seldom one level down, above what removes.
 */
export function actItems(acts: readonly Act[], close: () => void) {
  const often = acts.filter((act) => !act.rare);
  const rare = acts.filter((act) => act.rare);
  const last = often.findIndex((act) => act.group === 'remove');
  const items = often.flatMap((act, i) => [
    ...(i === last && rare.length > 0 ? [<RareItem key="rare" acts={rare} close={close} />] : []),
    ...(i > 0 && act.group !== often[i - 1]!.group ? [<Divider key={`${act.id}-rule`} />] : []),
    actItem(act, close),
  ]);
  return last < 0 && rare.length > 0 ? [...items, <RareItem key="rare" acts={rare} close={close} />] : items;
}

function actItem(act: Act, close: () => void) {
  return (
    <MenuItem
      key={act.id}
      onClick={() => {
        close();
        act.run();
      }}
      sx={act.grave ? { color: 'var(--brick)' } : undefined}
    >
      <span style={{ flex: 1, paddingRight: 24 }}>{act.label}</span>
      {act.key && <CommandKey of={act.key} />}
    </MenuItem>
  );
}

/** What else can be done, in a menu beside this one; the list hands on what its items get. */
function RareItem({
  acts,
  close,
  ...item
}: { acts: readonly Act[]; close: () => void } & ComponentProps<typeof MenuItem>) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <MenuItem
        {...item}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        onClick={(event) => setAnchor(event.currentTarget)}
        onKeyDown={(event) => event.key === 'ArrowRight' && setAnchor(event.currentTarget)}
      >
        <span style={{ flex: 1, paddingRight: 24 }}>More</span>
        <ChevronRight aria-hidden className="chevron" />
      </MenuItem>
      {anchor && (
        <Menu
          open
          anchorEl={anchor}
          anchorOrigin={{ vertical: 'top', horizontal: 'right' }}
          onClose={() => setAnchor(null)}
          // its keys would move the menu below it as well
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'ArrowLeft') setAnchor(null);
          }}
          slotProps={{ list: { dense: true, 'aria-label': 'More acts' } }}
        >
          {acts.map((act) => actItem(act, close))}
        </Menu>
      )}
    </>
  );
}

import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { KeyCap } from '../parts/KeyCap';
import { useDesk } from '../frame/desk';
import type { Act } from './acts';
import { useActs } from './useActs';

/** The context menu of whatever was pointed at. */
export function ActMenu({ route }: { route: string }) {
  const { menu, closeMenu } = useDesk();
  const acts = useActs(route);
  if (!menu) return null;
  return (
    <Menu
      open
      onClose={closeMenu}
      anchorReference="anchorPosition"
      anchorPosition={{ left: menu.x, top: menu.y }}
      slotProps={{ list: { 'aria-label': 'Acts', dense: true } }}
    >
      {actItems(acts(menu.item, menu.within), closeMenu)}
    </Menu>
  );
}

/** The items of a menu of acts; what is grave stands below a line. */
export function actItems(acts: readonly Act[], close: () => void) {
  return acts.flatMap((act) => [
    ...(act.grave ? [<Divider key={`${act.id}-line`} />] : []),
    <MenuItem
      key={act.id}
      onClick={() => {
        close();
        act.run();
      }}
      sx={act.grave ? { color: 'var(--brick)' } : undefined}
    >
      <span style={{ flex: 1, paddingRight: 24 }}>{act.label}</span>
      {act.key && <KeyCap>{act.key === 'Enter' ? '↵' : act.key === 'Delete' ? 'Del' : act.key}</KeyCap>}
    </MenuItem>,
  ]);
}

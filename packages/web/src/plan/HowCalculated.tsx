/** The model in a page, with its sources. */
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';

export function HowCalculated({ onClose }: { onClose(): void }) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="how-title" maxWidth="sm">
      <DialogTitle id="how-title">How this is calculated</DialogTitle>
      <DialogContent className="how-calculated">
        <p>
          How often a thing is opened of late is calculated from its last eight weeks, day by day: each day may have
          begun a new habit, and each length the present one may have counts by how likely it is (change points, Adams
          and MacKay 2007). A day on which many things changed is known sooner for each. So a new habit shows within
          days, and an old one is soon forgotten.
        </p>
        <p>
          Each route to it is added up from elementary acts: a key, a look, a choice among the entries there really are,
          pointing at a label of its real size (Keystroke-Level Model; Fitts’ law; choosing in menus by length and
          practice). On a shortcut’s card each route opens to its parts; the constants are in Settings with their
          sources.
        </p>
        <p>
          For every number of pins the strip is filled so that the week’s openings take the fewest seconds: who saves
          most where, not who is opened most. Taking a pin from where your hand knows it counts four seconds against the
          change. What is opened about once a week is left where it is, unless the strip is full and another saves more.
        </p>
        <p>
          “No plan can beat” gives each thing the cheapest pin there could be, as if it were alone on the strip. No real
          strip is that good; it says how much could be saved at most.
        </p>
        <p>A week after you apply something, Rellin says what it was to save, and what it did.</p>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

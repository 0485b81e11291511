/** The figures there are so far. */
import { scanAgain, scanFirst, walkLarge, walkUsr } from './index.walks.mjs';

export const BENCHES = [
  { name: 'walk', run: walkUsr },
  { name: 'walk.large', run: walkLarge },
  { name: 'scan.first', run: scanFirst },
  { name: 'scan.again', run: scanAgain },
];

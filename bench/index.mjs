/** The figures there are so far. */
import { catalogueFilter, catalogueOpen, menuType, pageLoad, pageScript } from './page.mjs';
import { scanAgain, scanFirst, walkLarge, walkUsr } from './index.walks.mjs';

export const BENCHES = [
  { name: 'walk', run: walkUsr },
  { name: 'walk.large', run: walkLarge },
  { name: 'scan.first', run: scanFirst },
  { name: 'scan.again', run: scanAgain },
  { name: 'catalogue.open', run: catalogueOpen },
  { name: 'catalogue.filter', run: catalogueFilter },
  { name: 'menu.type', run: menuType },
  { name: 'page.load', run: pageLoad },
  { name: 'page.script', run: pageScript },
];

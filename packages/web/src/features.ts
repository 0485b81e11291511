/** The features of the page, in the order in which the find line offers their commands. */
import { aliases } from './aliases/feature';
import { boards } from './boards/feature';
import { collections } from './collections/feature';
import { bin } from './bin/feature';
import { filing } from './filing/feature';
import { frame } from './frame/feature';
import { preview } from './preview/feature';
import { searches } from './searches/feature';
import { setUp } from './setUp/feature';
import { sweeps } from './sweeps/feature';
import { settings } from './settings/feature';
import { shortcuts } from './shortcuts/feature';
import { assemble } from './workspace/feature';

export const FEATURES = assemble([
  shortcuts,
  collections,
  boards,
  searches,
  aliases,
  filing,
  bin,
  sweeps,
  preview,
  frame,
  settings,
  setUp,
]);

/** The figures there are so far. */
import { actsParallel } from './acts.mjs';
import { pageEmpty, reachAdd } from './adding.mjs';
import { aliasOne } from './aliases.mjs';
import { belongsAsk, belongsCalibration, belongsHit1, belongsHit3, belongsSweep } from './belongs.mjs';
import { httpList } from './http.mjs';
import { catalogueFilter, catalogueOpen, menuType, pageLoad, pageScript } from './page.mjs';
import { findHit5, findMrr, findRanked, findSubstring } from './find.mjs';
import { indexLoad, searchContent, searchCount, searchesUpdate, searchFirst, serverMemory } from './searches.mjs';
import { likelyHit5, planExact, planSolve, reachAll, reachOne } from './plan.mjs';
import { repairEvent, repairFirst, repairFolder, repairFolderLarge, repairRecall, repairWrong } from './repair.mjs';
import { repairHistories } from './histories.mjs';
import { watchEvent, watchReady } from './watch.mjs';
import { scanAgain, scanFirst, walkLarge, walkUsr } from './index.walks.mjs';

export const BENCHES = [
  { name: 'walk', run: walkUsr },
  { name: 'walk.large', run: walkLarge },
  { name: 'scan.first', run: scanFirst },
  { name: 'scan.again', run: scanAgain },
  { name: 'index.load', run: indexLoad },
  { name: 'watch.ready', run: watchReady },
  { name: 'watch.event', run: watchEvent },
  { name: 'find.substring', run: findSubstring },
  { name: 'find.ranked', run: findRanked },
  { name: 'find.mrr', run: findMrr },
  { name: 'find.hit5', run: findHit5 },
  { name: 'search.count', run: searchCount },
  { name: 'search.first', run: searchFirst },
  { name: 'search.content', run: searchContent },
  { name: 'searches.update', run: searchesUpdate },
  { name: 'server.memory', run: serverMemory },
  { name: 'repair.recall', run: repairRecall },
  { name: 'repair.wrong', run: repairWrong },
  { name: 'repair.first', run: repairFirst },
  { name: 'repair.event', run: repairEvent },
  { name: 'repair.folder', run: repairFolder },
  { name: 'repair.large', run: repairFolderLarge },
  { name: 'repair.histories', run: repairHistories },
  { name: 'belongs.hit1', run: belongsHit1 },
  { name: 'belongs.hit3', run: belongsHit3 },
  { name: 'belongs.calibration', run: belongsCalibration },
  { name: 'belongs.ask', run: belongsAsk },
  { name: 'belongs.sweep', run: belongsSweep },
  { name: 'acts.parallel', run: actsParallel },
  { name: 'alias.one', run: aliasOne },
  { name: 'http.list', run: httpList },
  { name: 'reach.all', run: reachAll },
  { name: 'reach.one', run: reachOne },
  { name: 'reach.add', run: reachAdd },
  { name: 'plan.solve', run: planSolve },
  { name: 'plan.exact', run: planExact },
  { name: 'likely.hit5', run: likelyHit5 },
  { name: 'catalogue.open', run: catalogueOpen },
  { name: 'catalogue.filter', run: catalogueFilter },
  { name: 'menu.type', run: menuType },
  { name: 'page.empty', run: pageEmpty },
  { name: 'page.load', run: pageLoad },
  { name: 'page.script', run: pageScript },
];

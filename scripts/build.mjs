import { runMain } from './lib/log.mjs';
import { ensureBuild, ensurePackages } from './lib/prepare.mjs';

runMain(async () => {
  ensurePackages();
  ensureBuild();
});

import { Global, Module } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { CONFIG, type Config } from '../config/config.js';
import { First1700000000000 } from './migrations/1700000000000-first.js';
import { Collections1700000100000 } from './migrations/1700000100000-collections.js';
import { ENTITIES } from './entities.js';
import { lendActs } from './inAct.js';
import { CONNECT_MS, POOL_SIZE } from './pool.js';
import { Filing1700000200000 } from './migrations/1700000200000-filing.js';
import { Folded1700000500000 } from './migrations/1700000500000-folded.js';
import { FilingProgress1700000400000 } from './migrations/1700000400000-filing-progress.js';
import { Searches1700000600000 } from './migrations/1700000600000-searches.js';
import { Aliases1700000900000 } from './migrations/1700000900000-aliases.js';
import { Plan1700001100000 } from './migrations/1700001100000-plan.js';
import { RecentFiles1700001200000 } from './migrations/1700001200000-recent-files.js';
import { JournalRewritten1700001300000 } from './migrations/1700001300000-journal-rewritten.js';
import { Boards1700001400000 } from './migrations/1700001400000-boards.js';
import { KnownInodes1700001700000 } from './migrations/1700001700000-known-inodes.js';
import { Words1700001800000 } from './migrations/1700001800000-words.js';
import { NumberedOriginals1700001900000 } from './migrations/1700001900000-numbered-originals.js';
import { Passphrase1700002000000 } from './migrations/1700002000000-passphrase.js';
import { Kinds1700002100000 } from './migrations/1700002100000-kinds.js';
import { Sweeps1700002200000 } from './migrations/1700002200000-sweeps.js';
import { LinkKeys1700001600000 } from './migrations/1700001600000-link-keys.js';
import { Sessions1700001500000 } from './migrations/1700001500000-sessions.js';
import { JournalOrder1700001000000 } from './migrations/1700001000000-journal-order.js';
import { CheckUp1700000700000 } from './migrations/1700000700000-check-up.js';
import { FileSystems1700000800000 } from './migrations/1700000800000-file-systems.js';
import { Pictures1700000300000 } from './migrations/1700000300000-pictures.js';

export function dataSourceFor(databaseUrl: string): DataSource {
  return new DataSource({
    type: 'postgres',
    url: databaseUrl,
    // ids, sizes and counts, all far below 2^53: numbers in a row, as they are in JSON
    parseInt8: true,
    entities: ENTITIES,
    migrations: [
      First1700000000000,
      Collections1700000100000,
      Filing1700000200000,
      Pictures1700000300000,
      FilingProgress1700000400000,
      Folded1700000500000,
      Searches1700000600000,
      CheckUp1700000700000,
      FileSystems1700000800000,
      Aliases1700000900000,
      JournalOrder1700001000000,
      Plan1700001100000,
      RecentFiles1700001200000,
      JournalRewritten1700001300000,
      Boards1700001400000,
      Sessions1700001500000,
      LinkKeys1700001600000,
      KnownInodes1700001700000,
      Words1700001800000,
      NumberedOriginals1700001900000,
      Passphrase1700002000000,
      Kinds1700002100000,
      Sweeps1700002200000,
    ],
    synchronize: false,
    logging: false,
    extra: { max: POOL_SIZE, connectionTimeoutMillis: CONNECT_MS, options: '-c timezone=UTC' },
    poolErrorHandler: () => {
      // a connection lost while idle; the next query opens another or fails with a message of its own
    },
  });
}

@Global()
@Module({
  providers: [
    {
      provide: DataSource,
      inject: [CONFIG],
      useFactory: async (config: Config) => {
        const source = await dataSourceFor(config.databaseUrl).initialize();
        await source.runMigrations({ transaction: 'each' });
        lendActs(source);
        return source;
      },
    },
  ],
  exports: [DataSource],
})
export class DatabaseModule {}

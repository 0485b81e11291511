/**
 * The connection of an act is the only one that anything within it uses: asked for another, the pool would one day be
 * empty while each act waits for the others. Whatever asks the data source from within an act is lent the act's own.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import type { DataSource, EntityManager, QueryRunner } from 'typeorm';

interface Act {
  runner: QueryRunner;
  /** What an act leaves behind it, timers and the like, asks the pool again. */
  ended: boolean;
}

const acts = new AsyncLocalStorage<Act | undefined>();

export const isInAct = (): boolean => acts.getStore()?.ended === false;

/**
 * One transaction; all that `work` asks of the database, by whatever way, goes through it, one question after the
 * other.
 */
export function transactionOfAct<T>(source: DataSource, work: (manager: EntityManager) => Promise<T>): Promise<T> {
  return source.transaction(async (manager) => {
    const act: Act = { runner: oneAfterTheOther(manager.queryRunner!), ended: false };
    try {
      return await acts.run(act, () => work(manager));
    } finally {
      act.ended = true;
    }
  });
}

/** For what must stand even where the act around does not come to its end: on a connection of its own. */
export const besideAct = <T>(work: () => Promise<T>): Promise<T> => acts.run(undefined, work);

/** Has the data source lend the connection of an act to whoever asks from within it. */
export function lendActs(source: DataSource): void {
  const create = source.createQueryRunner.bind(source);
  source.createQueryRunner = (mode) => {
    const act = acts.getStore();
    return act && !act.ended ? lent(act.runner) : create(mode);
  };
}

/** An act may ask several things at once; the driver warns of that, and its next version refuses. Here they wait. */
function oneAfterTheOther(runner: QueryRunner): QueryRunner {
  const query = runner.query.bind(runner) as QueryRunner['query'];
  let last: Promise<unknown> = Promise.resolve();
  runner.query = (...question: Parameters<QueryRunner['query']>) => {
    const answer = last.then(() => query(...question));
    last = answer.catch(() => undefined);
    return answer;
  };
  return runner;
}

/** The same connection, which whoever borrows it cannot give back. */
function lent(runner: QueryRunner): QueryRunner {
  return new Proxy(runner, {
    get(target, key) {
      if (key === 'release') return async () => undefined;
      const value = Reflect.get(target, key) as unknown;
      return typeof value === 'function' ? value.bind(target) : value;
    },
  });
}

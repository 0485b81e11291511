/** Where new shortcuts went last, kept by the browser: the next ones often go there too. */

export interface Where {
  collections: string[];
  tags: string[];
  pin: boolean;
}

const KEY = 'rellin.add-where';
const NOWHERE: Where = { collections: [], tags: [], pin: false };

/** What the browser does not keep, or keeps damaged, was nothing. */
export function rememberedWhere(): Where {
  try {
    const { collections, tags, pin } = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Where;
    const texts = (list: unknown): string[] =>
      Array.isArray(list) ? list.filter((one): one is string => typeof one === 'string') : [];
    return { collections: texts(collections), tags: texts(tags), pin: pin === true };
  } catch {
    return NOWHERE;
  }
}

export function rememberWhere(where: Where): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(where));
  } catch {
    // a browser that keeps nothing
  }
}

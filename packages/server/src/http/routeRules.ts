/**
 * What a route lets in, said where the route stands. Whatever says nothing wants a session or the command's token and
 * takes a JSON body of ordinary size: to forget a rule shuts a door, it never opens one.
 */
import { RouteConfig } from '@nestjs/platform-fastify';

export interface RouteRules {
  /** It answers without a session. The gate's tests hold the list of these against the registered routes. */
  open?: boolean;
  /** The body: JSON within these bounds, `bytes` as a stream of at most so many, or none at all. */
  body?: JsonBounds | { bytes: number } | 'none';
}

/** Bounds of a JSON body, tested on its bytes before anything is made of them. */
export interface JsonBounds {
  /** Of the whole text. */
  bytes: number;
  /** Arrays and objects within each other. */
  depth: number;
  /** Of one object. */
  keys: number;
  /** Of one array. */
  items: number;
}

/** What a page or command sends: lists of ten thousand ids are the largest. */
export const USUAL_BODY: JsonBounds = { bytes: 1 << 20, depth: 16, keys: 200, items: 10_000 };
/** For routes that are open to anybody on the machine. */
export const SMALL_BODY: JsonBounds = { bytes: 4096, depth: 2, keys: 8, items: 8 };

/** Fastify's own config of a route, with our rules in it. */
export interface RuledConfig {
  rules?: RouteRules;
}

export const Rules = (rules: RouteRules) => RouteConfig({ rules } satisfies RuledConfig);

/** Of a matched route; of one that says nothing, and of none at all, the strictest. */
export function rulesOf(config: unknown): RouteRules {
  return (config as RuledConfig | undefined)?.rules ?? {};
}

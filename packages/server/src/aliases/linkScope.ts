/** Which aliases and publications are to be brought in step: all, or those that something was changed about. */
export class LinkScope {
  aliases: Set<string> | 'all' = new Set();
  publications: Set<string> | 'all' = new Set();

  static all(): LinkScope {
    const scope = new LinkScope();
    scope.aliases = 'all';
    scope.publications = 'all';
    return scope;
  }

  static of(unit: { aliases?: readonly string[]; publications?: readonly string[] }): LinkScope {
    const scope = new LinkScope();
    scope.aliases = new Set(unit.aliases);
    scope.publications = new Set(unit.publications);
    return scope;
  }

  add(other: LinkScope): void {
    this.aliases = together(this.aliases, other.aliases);
    this.publications = together(this.publications, other.publications);
  }

  get isEmpty(): boolean {
    return this.aliases !== 'all' && this.publications !== 'all' && this.aliases.size + this.publications.size === 0;
  }
}

const together = (a: Set<string> | 'all', b: Set<string> | 'all') =>
  a === 'all' || b === 'all' ? 'all' : new Set([...a, ...b]);

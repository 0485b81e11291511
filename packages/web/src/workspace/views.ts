/** The views as they stand on the left: name, address, and which of them begin a new group. */
export const VIEWS = [
  { name: 'Reach', path: '/reach', group: 1 },
  { name: 'Catalogue', path: '/catalogue', group: 1 },
  { name: 'Originals', path: '/originals', group: 1 },
  { name: 'Collections', path: '/collections', group: 1 },
  { name: 'Searches', path: '/searches', group: 1 },
  { name: 'Boards', path: '/boards', group: 1 },
  { name: 'Check-up', path: '/check-up', group: 2 },
  { name: 'Plan', path: '/plan', group: 2 },
  { name: 'Sweeps', path: '/sweeps', group: 2 },
  { name: 'Journal', path: '/journal', group: 3 },
  { name: 'Bin', path: '/bin', group: 3 },
  { name: 'Settings', path: '/settings', group: 4 },
] as const;

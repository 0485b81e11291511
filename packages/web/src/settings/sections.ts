/** The sections of Settings, as their index and the find line list them. */
export const SECTIONS = [
  { id: 'places', title: 'Folders' },
  { id: 'page', title: 'Appearance and start' },
  { id: 'keys', title: 'Keys' },
  { id: 'pins', title: 'Pins and plan' },
  { id: 'start-folder', title: 'Where Originals opens' },
  { id: 'programs', title: 'Programs by kind' },
  { id: 'reach', title: 'Reach' },
  { id: 'contents', title: 'Contents of files' },
  { id: 'signing-in', title: 'Signing in' },
] as const;

export type SectionId = (typeof SECTIONS)[number]['id'];

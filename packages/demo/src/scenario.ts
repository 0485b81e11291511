/** The words of Marrowick Head: a made-up coastal bird observatory run by six volunteers. All names are invented. */

export const VOLUNTEERS = ['Ishbel Tarn', 'Corin Vell', 'Maud Ostrey', 'Tobin Harl', 'Senna Quill', 'Ewart Pask'];

export const BIRDS = [
  'rock pipit',
  'wheatear',
  'goldcrest',
  'robin',
  'blackcap',
  'willow warbler',
  'chiffchaff',
  'twite',
  'linnet',
  'storm petrel',
  'fulmar',
  'shag',
  'kittiwake',
  'razorbill',
  'puffin',
  'turnstone',
  'purple sandpiper',
  'snow bunting',
];

export const MOTHS = [
  'dark arches',
  'silver y',
  'antler moth',
  'large yellow underwing',
  'square-spot rustic',
  'garden carpet',
  'northern rustic',
  'magpie moth',
];

export const PHOTO_SPOTS = [
  'slipway',
  'north cliff',
  'lamp room',
  'net ride',
  'heligoland',
  'west bay',
  'skerry',
  'meadow',
];

/** Made-up programs: id, name, what it is, categories, types it opens. */
export const PROGRAMS: [string, string, string, string, string][] = [
  ['tideplotter', 'Tideplotter', 'Tide curves for any day', 'Science;Geography;', 'text/csv;'],
  ['wavescope', 'Wavescope', 'Looks at and cuts sound recordings', 'AudioVideo;Audio;', 'audio/x-wav;audio/wav;'],
  ['ringbook', 'Ringbook', 'Enters ringing records', 'Science;Office;', 'text/csv;'],
  ['mothtally', 'Moth Tally', 'Counts a night’s catch', 'Science;', 'text/csv;'],
  ['chartroom', 'Chartroom', 'Maps and tracks', 'Science;Geography;', 'application/gpx+xml;'],
  [
    'galleyproof',
    'Galley Proof',
    'Lays out the newsletter',
    'Office;Publishing;',
    'application/vnd.oasis.opendocument.text;',
  ],
  ['sheetanchor', 'Sheet Anchor', 'Tables and sums', 'Office;Spreadsheet;', 'text/csv;'],
  ['plainquill', 'Plain Quill', 'Writes plain text', 'Utility;TextEditor;', 'text/plain;text/markdown;'],
  ['lightbox', 'Stationlight', 'Looks through photographs', 'Graphics;Viewer;', 'image/png;image/jpeg;'],
  ['pagelamp', 'Pagelamp', 'Reads PDF documents', 'Office;Viewer;', 'application/pdf;'],
  ['enginelog', 'Engine Log', 'Hours and oil of the boat', 'Utility;', ''],
  ['wxlogger', 'Weather Logger', 'Reads the station’s mast', 'Science;', ''],
];

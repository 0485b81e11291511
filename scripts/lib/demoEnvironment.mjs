/** The environment that turns the server into the demo: stand-in opener, invented programs, three places. */
export function demoEnvironment(at) {
  return {
    RELLIN_OPENER: 'viewer',
    RELLIN_DEMO: '1',
    RELLIN_SEED: at.seedFile,
    HOME: at.home,
    XDG_CONFIG_HOME: at.configHome,
    XDG_DATA_HOME: at.dataHome,
    XDG_DATA_DIRS: at.systemData,
    LANG: 'C.UTF-8',
    RELLIN_PLACES: JSON.stringify([
      { name: 'Marrowick', root: at.marrowick, type: 'fixed' },
      { name: 'Field drive', root: at.fieldDrive, type: 'removable', standInStore: at.fieldDriveStore },
      { name: 'Station share', root: at.stationShare, type: 'network', standInStore: at.stationShareStore },
    ]),
  };
}

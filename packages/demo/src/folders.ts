/** Where the demo's folders are. */
import { join } from 'node:path';

export interface DemoFolders {
  home: string;
  marrowick: string;
  fieldDrive: string;
  fieldDriveStore: string;
  stationShare: string;
  stationShareStore: string;
  dataHome: string;
  configHome: string;
  systemData: string;
  seedFile: string;
}

export function demoFolders(base: string): DemoFolders {
  return {
    home: join(base, 'home'),
    marrowick: join(base, 'home/Marrowick'),
    fieldDrive: join(base, 'media/Field drive'),
    fieldDriveStore: join(base, 'unplugged/Field drive'),
    stationShare: join(base, 'media/Station share'),
    stationShareStore: join(base, 'unplugged/Station share'),
    dataHome: join(base, 'home/.local/share'),
    configHome: join(base, 'home/.config'),
    systemData: join(base, 'system/share'),
    seedFile: join(base, 'catalogue.json'),
  };
}

import { CollectionEntity } from './entities/collection.entity.js';
import { MemberEntity } from './entities/member.entity.js';
import { TagEntity } from './entities/tag.entity.js';
import { ShortcutEntity } from './entities/shortcut.entity.js';
import { PinEntity } from './entities/pin.entity.js';
import { PlaceEntity } from './entities/place.entity.js';
import { PlaceStatusEntity } from './entities/placeStatus.entity.js';
import { JournalEntity } from './entities/journal.entity.js';
import { OpeningEntity } from './entities/opening.entity.js';
import { UsageEntity } from './entities/usage.entity.js';
import { SettingEntity } from './entities/setting.entity.js';
import { SessionEntity } from './entities/session.entity.js';

export const ENTITIES = [
  ShortcutEntity,
  CollectionEntity,
  MemberEntity,
  TagEntity,
  PinEntity,
  PlaceEntity,
  PlaceStatusEntity,
  JournalEntity,
  OpeningEntity,
  UsageEntity,
  SettingEntity,
  SessionEntity,
];

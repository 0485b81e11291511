import { CollectionEntity } from '../collections/collection.entity.js';
import { MemberEntity } from '../collections/member.entity.js';
import { TagEntity } from '../tags/tag.entity.js';
import { ShortcutEntity } from '../shortcuts/shortcut.entity.js';
import { PinEntity } from '../pins/pin.entity.js';
import { PlaceEntity } from '../places/place.entity.js';
import { PlaceStatusEntity } from '../places/placeStatus.entity.js';
import { JournalEntity } from '../journal/journal.entity.js';
import { OpeningEntity } from '../openings/opening.entity.js';
import { UsageEntity } from '../openings/usage.entity.js';
import { SettingEntity } from '../settings/setting.entity.js';
import { SessionEntity } from '../session/session.entity.js';

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

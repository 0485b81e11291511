import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';
import type { PlaceId, PlaceType } from '@rellin/contract';

@Entity('place')
export class PlaceEntity {
  @PrimaryGeneratedColumn() id: PlaceId;
  @Column('text') name: string;
  @Column('text') root: string;
  @Column('text') type: PlaceType;
  @Column('text', { array: true }) excludes: string[];
  /** The root folder's own identity: tells the place from an empty mount point or another drive. */
  @Column('double precision', { name: 'root_inode', nullable: true }) rootInode: number | null;
  @Column('double precision', { name: 'root_birth', nullable: true }) rootBirth: number | null;
  /** Its file system's own number or share, where it has one, and its path from the top of that. */
  @Column('text', { name: 'file_system', nullable: true }) fileSystem: string | null;
  @Column('text', { name: 'file_system_path', nullable: true }) fileSystemPath: string | null;
  /** For a stand-in: where its contents lie while it is disconnected. */
  @Column('text', { name: 'stand_in_store', nullable: true }) standInStore: string | null;
  @Column('timestamptz', { name: 'removed_at', nullable: true }) removedAt: Date | null;
}

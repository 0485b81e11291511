import type { TagId } from '@rellin/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('tag')
export class TagEntity {
  @PrimaryColumn('uuid') id: TagId;
  @Column('text') name: string;
  /** A name of the palette. */
  @Column('text') colour: string;
}

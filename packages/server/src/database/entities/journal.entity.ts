import type { JournalLineId } from '@rellin/contract';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';
import type { Change } from '@rellin/core/journal';

@Entity('journal')
export class JournalEntity {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: JournalLineId;
  @Column('timestamptz', { default: () => 'now()' }) at: Date;
  @Column('text') act: string;
  @Column('text') summary: string;
  @Column('text') by: 'person' | 'automatic';
  /** Whether Ctrl+Z comes to it; openings and what Rellin did by itself are undone from the Journal only. */
  @Column('boolean', { name: 'in_stack' }) inStack: boolean;
  @Column('jsonb') changes: Change[];
  /** What the undo really changed; redo takes exactly that back. */
  @Column('jsonb', { name: 'undo_changes', nullable: true }) undoChanges: Change[] | null;
  @Column('timestamptz', { name: 'undone_at', nullable: true }) undoneAt: Date | null;
  /** When it was undone, counted in one row with the ids of acts. */
  @Column('bigint', { name: 'undone_order', nullable: true }) undoneOrder: number | null;
}

/** A second Rellin with made-up files, in a catalogue of its own. */
export interface ExampleView {
  /** "unavailable": this Rellin was started without it, or is the example itself. */
  state: 'unavailable' | 'none' | 'starting' | 'running' | 'leaving';
  /** Why it could not be started, in words; empty otherwise. */
  trouble: string;
}

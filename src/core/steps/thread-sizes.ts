/**
 * Hole sizes for metric threads. Clearance holes: the medium series of ISO 273. Tapping drills: nominal diameter less the
 * coarse pitch of ISO 261, rounded as drills are sold (ISO 2306). All entered from memory of these standards.
 */
interface ThreadSize {
  readonly thread: string;
  /** Millimetres. */
  readonly clearance: number;
  readonly tapping: number;
  readonly pitch: number;
}

const THREADS: readonly ThreadSize[] = [
  { thread: 'M3', clearance: 3.4, tapping: 2.5, pitch: 0.5 },
  { thread: 'M4', clearance: 4.5, tapping: 3.3, pitch: 0.7 },
  { thread: 'M5', clearance: 5.5, tapping: 4.2, pitch: 0.8 },
  { thread: 'M6', clearance: 6.6, tapping: 5, pitch: 1 },
  { thread: 'M8', clearance: 9, tapping: 6.8, pitch: 1.25 },
  { thread: 'M10', clearance: 11, tapping: 8.5, pitch: 1.5 },
  { thread: 'M12', clearance: 13.5, tapping: 10.2, pitch: 1.75 },
  { thread: 'M16', clearance: 17.5, tapping: 14, pitch: 2 },
  { thread: 'M20', clearance: 22, tapping: 17.5, pitch: 2.5 },
];

export function listThreads(): readonly ThreadSize[] {
  return THREADS;
}

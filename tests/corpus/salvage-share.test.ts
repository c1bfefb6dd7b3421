import { describe, expect, it } from 'vitest';
import { demoFiles } from '#demo/files.ts';
import { salvageShare, shareText } from '../support/salvage-share.ts';

/** Sound files only: what is damaged here is damaged on purpose, by kinds and seeds. */
const files = demoFiles.filter((f) => f.name !== 'damaged copy.mid').map((f) => f.bytes());

describe('issue 9.3: salvage reads what is readable', () => {
  it('of the notes that no damage touched, most stay at their place, by ten kinds of damage (printed)', () => {
    const shares = salvageShare(files, 4, 7);
    const all = { notes: 0, kept: 0 };
    const seen = { notes: 0, kept: 0 };
    for (const [kind, share] of Object.entries(shares)) {
      console.log(
        `${kind.padEnd(26)} ${shareText(share)} of ${share.notes} notes in ${share.files} files`,
      );
      all.notes += share.notes;
      all.kept += share.kept;
      seen.notes += share.seen.notes;
      seen.kept += share.seen.kept;
    }
    console.log(
      `${'all kinds'.padEnd(26)} ${shareText(all)}; of damage that leaves a trace ${shareText(seen)}`,
    );
    for (const kind of ['cut off', 'a wrong length of a track', 'a damaged head'])
      expect(shares[kind]!.kept, kind).toBe(shares[kind]!.notes);
    // What turns a time into another time leaves a sound file: no reader can know, and all behind it is
    // counted as lost.
    expect(seen.kept / seen.notes).toBeGreaterThan(0.995);
    expect(all.kept / all.notes).toBeGreaterThan(0.99);
  });
});

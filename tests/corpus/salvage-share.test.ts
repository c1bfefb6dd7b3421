import { describe, expect, it } from 'vitest';
import { demoFiles } from '#demo/files.ts';
import { salvageShare, shareText } from '../support/salvage-share.ts';

/** Sound files only: what is damaged here is damaged on purpose, by kinds and seeds. */
const files = demoFiles.filter((f) => f.name !== 'damaged copy.mid').map((f) => f.bytes());

describe('issue 9.3: salvage reads what is readable', () => {
  it('of the notes that no damage touched, most stay at their place, by ten kinds of damage (printed)', () => {
    const shares = salvageShare(files, 4, 7);
    const all = { notes: 0, kept: 0 };
    for (const [kind, share] of Object.entries(shares)) {
      console.log(`${kind.padEnd(26)} ${shareText(share)} of ${share.notes} notes in ${share.files} files`);
      all.notes += share.notes;
      all.kept += share.kept;
    }
    console.log(`${'all kinds'.padEnd(26)} ${shareText(all)}`);
    for (const kind of ['cut off', 'a wrong length of a track', 'a damaged head']) expect(shares[kind]!.kept, kind).toBe(shares[kind]!.notes);
    expect(all.kept / all.notes).toBeGreaterThan(0.98);
  });
});

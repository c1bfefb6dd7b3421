import { describe, expect, it } from 'vitest';
import { paperText, type Paper } from './paper.ts';
import { paperHtml } from './paper-html.ts';
import { durationText, type Slip } from './slip.ts';

const slip = (file: string, some: Partial<Slip> = {}): Slip => ({
  song: 'Ferry <b>',
  file,
  bytes: 1234,
  sha256: 'ab'.repeat(32),
  format: 1,
  division: '480 PPQ',
  extent: {
    tracks: 1,
    notes: 7,
    bars: 16,
    seconds: 61.5,
    timecode: { from: '01:00:00:00', to: '01:01:01:12' },
  },
  tracks: [
    {
      id: 't1',
      name: 'Oboe & "Horn"',
      channels: [0],
      events: 20,
      notes: 7,
      state: 'part',
      added: {},
      removed: {},
    },
  ],
  removed: [],
  reordered: false,
  notes: ['One note that rings over its last bar ends with it.'],
  proof: { holds: true, tracks: 1, events: 20, differences: [] },
  sameAsOriginal: false,
  ...some,
});
const paper = (...files: Slip[]): Paper => ({
  song: 'Ferry <b>',
  revision: 3,
  at: '2026-11-27 12:00:00',
  notes: ['In no section, and not sent: bars 1 to 4.'],
  files,
});

describe('the paper of a handoff', () => {
  it('says time as minutes, seconds and thousandths', () => {
    expect([durationText(61.5), durationText(0.0004), durationText(59.9996)]).toEqual([
      '1:01.500',
      '0:00.000',
      '1:00.000',
    ]);
  });

  it('of one file is its slip, with length, timecode and the line that any tool checks it by', () => {
    const text = paperText(paper(slip('a.mid')));
    expect(text).toContain('Length    16 bars, 1:01.500, 01:00:00:00 to 01:01:01:12');
    expect(text).toContain(`\n  ${'ab'.repeat(32)}  a.mid\n`);
    expect(text).toContain('Oboe & "Horn" (ch 1): 7 notes, 20 events; as in the song');
  });

  it('of several says each in few lines, and once what is said of all', () => {
    const text = paperText(paper(slip('a.mid'), slip('b.mid')));
    expect(text.match(/In no section/g)).toHaveLength(1);
    expect(text).toContain('b.mid: 1,234 bytes, 1 track, 7 notes, 16 bars');
    expect(text).toContain('2 files, 40 events, each the one meant');
    const wrong = { holds: false, tracks: 1, events: 20, differences: ['track 1 differs'] };
    expect(paperText(paper(slip('a.mid'), slip('b.mid', { proof: wrong })))).toContain(
      'b.mid: THE FILE DOES NOT READ BACK AS MEANT: track 1 differs',
    );
  });

  it('as a page takes names for what they are, fetches nothing, and stays on one sheet however many files there are', () => {
    const page = paperHtml(paper(slip('a.mid')));
    expect(page).toContain('Oboe &amp; &quot;Horn&quot;');
    expect(page).toContain('Ferry &lt;b&gt;');
    expect(page).not.toMatch(/<b>|<script|https?:|url\(/);
    const many = paperHtml(paper(...Array.from({ length: 720 }, (_, n) => slip(`${n}.mid`))));
    expect(many.match(/<tr>/g)!.length).toBeLessThan(65);
    expect(many).toContain('and 700 more');
    // What is said of each of its files is said once.
    expect(many.match(/One note that rings/g)).toHaveLength(1);
  });
});

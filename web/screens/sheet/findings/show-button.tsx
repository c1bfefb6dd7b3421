import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { FindingView } from '#contracts/findings.ts';
import type { SongView } from '#contracts/songs.ts';
import { meantOf } from '../../../api/meant.ts';
import { showProblem } from '../../../api/queries.ts';
import { Button } from '../../../components/button.tsx';
import { counts } from '../../../components/text.ts';
import type { Meant } from '../../../desk/meant.ts';
import { mark } from '../../../state/marked.ts';
import { useScope, type Bars } from '../../../state/scope.ts';
import { small } from './settle-button.tsx';
import { askedOf } from './settling.ts';
import { say } from '../../../messages/messages.ts';

/** Where they are best seen. */
const viewOf = ({ notes, values, others }: Meant): string =>
  others > 0 ? 'events' : notes >= values ? 'notes' : 'lanes';

/** Marks the events that findings are about in every view, and goes where they are seen. */
export function ShowButton({
  song,
  findings,
  about,
}: {
  song: SongView;
  findings: readonly FindingView[];
  /** Id of what says what is wrong. */
  about: string;
}) {
  const show = useShow(song, findings);
  const [looking, look] = useState(false);
  return (
    <Button
      kind="quiet"
      className={`${small} text-faint`}
      disabled={looking}
      data-finding={findings[0]!.key}
      aria-describedby={about}
      title="Marks the very events, and goes there"
      onClick={() => {
        look(true);
        void show()
          .catch(showProblem)
          .finally(() => look(false));
      }}
    >
      Show
    </Button>
  );
}

/** Marks the events, or selects the tracks where they are about no single ones, and goes there. */
function useShow(song: SongView, findings: readonly FindingView[]): () => Promise<void> {
  const navigate = useNavigate();
  const { key, title, heading } = findings[0]!;
  const tracks = [...new Set(findings.flatMap((f) => f.tracks))];
  const bars = barsOf(findings);
  return async () => {
    const meant = await meantOf(
      song,
      findings.map(({ rule, tracks: its, settle: [first] }) => ({
        rule,
        tracks: [...its],
        step: first && askedOf(first),
      })),
    );
    if (!meant || meant.notes + meant.values + meant.others === 0) {
      useScope.getState().select(tracks, tracks[0]);
      useScope.getState().span(bars);
      say('Selected: it is about no single events', { about: 'shown' });
      // Its card stands elsewhere now, and keeps the focus.
      await navigate(`/songs/${song.id}`, { state: { finding: key } });
      return;
    }
    const { notes: note, values: value, others: event, rows, ticks } = meant;
    mark(
      {
        song: song.id,
        revision: song.revision,
        title: findings.length === 1 ? title : heading,
        finding: key,
        rows,
        ticks,
        says: counts(
          Object.fromEntries(Object.entries({ note, value, event }).filter(([, n]) => n > 0)),
        ),
      },
      tracks.length > 0 ? tracks : Object.keys(rows),
      bars,
    );
    await navigate(`/songs/${song.id}/${viewOf(meant)}`);
  };
}

/** From the first bar to the last; none where one of them is about all. */
function barsOf(findings: readonly FindingView[]): Bars | undefined {
  const all = findings.flatMap((f) => f.bars ?? []);
  if (all.length < findings.length) return undefined;
  return { from: Math.min(...all.map((b) => b.from)), to: Math.max(...all.map((b) => b.to)) };
}

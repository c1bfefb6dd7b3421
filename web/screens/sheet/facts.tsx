import { keyNow } from '../../keys/shown.ts';
import { lazy, Suspense, useState, type ReactNode } from 'react';
import { keySignatureText } from '#core/song/key-names.ts';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { keyName } from '#core/units/units.ts';
import { Button } from '../../components/button.tsx';
import { bpmText, count, counts, duration } from '../../components/text.ts';
import { isFlat } from '../../drawing/glyphs.ts';
import { asSaid, Choice } from '../../fields/choice.tsx';
import { usePreferences } from '../../state/preferences.ts';

/** Charts come when they are asked for: most of their code is theirs alone. */
const TrackNumbers = lazy(() => import('../../charts/track-numbers.tsx'));

/**
 * How a track's velocities, lengths, places and controllers are spread, unfolded where it is wanted; it
 * stays so from track to track.
 */
export function InNumbers({ song, track }: { song: SongView; track: TrackView }) {
  const [open, setOpen] = useState(false);
  return (
    <section aria-label="In numbers" className="mt-3 border-t border-line pt-3">
      <Button kind="quiet" className="-ml-2.5" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Fold the numbers' : 'In numbers'}
      </Button>
      {open && (
        <Suspense fallback={<p className="text-faint">Counting …</p>}>
          <TrackNumbers song={song} track={track} />
        </Suspense>
      )}
    </section>
  );
}

function Facts({ title, children }: { title: string; children: ReactNode }) {
  return (
    <>
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold break-words">{title}</h2>
      <dl className="space-y-1.5">{children}</dl>
    </>
  );
}

function Fact({
  name,
  children,
  look = false,
}: {
  name: string;
  children: ReactNode;
  look?: boolean;
}) {
  return (
    <div className="grid grid-cols-[74px_minmax(0,1fr)] gap-2">
      <dt className="text-[12px] text-faint">{name}</dt>
      <dd className={`break-words ${look ? 'text-ochre' : ''}`}>{children}</dd>
    </div>
  );
}

export function SongFacts({ song }: { song: SongView }) {
  const { timing } = song;
  const { middleC, setMiddleC } = usePreferences();
  const bpms = timing.tempos.map((t) => t.bpm);
  const tempo =
    bpms.length === 0
      ? '120 (none stated)'
      : bpms.length === 1
        ? bpmText(bpms[0]!)
        : `${bpmText(Math.min(...bpms))} to ${bpmText(Math.max(...bpms))}, ${count(timing.tempoCount, 'event')}`;
  const meters = [...new Set(timing.meters.map((m) => `${m.numerator}/${m.denominator}`))].join(
    ', ',
  );
  return (
    <>
      <Facts title={song.title}>
        <Fact name="Length">
          {count(timing.bars, 'bar')}, {duration(timing.seconds)}
        </Fact>
        <Fact name="Tempo" look={timing.tempoCount > 200}>
          {tempo}
        </Fact>
        <Fact name="Meter">{meters}</Fact>
        {timing.keys[0] && (
          <Fact name="Key">{keySignatureText(timing.keys[0].sharps, timing.keys[0].minor)}</Fact>
        )}
        {timing.startTimecode && (
          <Fact name="Timecode">
            <span className="num">{timing.startTimecode}</span> at {timing.frameRate} fps
          </Fact>
        )}
        <Fact name="Markers">{timing.markers.length === 0 ? 'none' : timing.markers.length}</Fact>
        <Fact name="Notes">{song.notes.toLocaleString('en')}</Fact>
        <Fact name="Format">
          {song.format}, {song.divisionText}
        </Fact>
      </Facts>
      <div className="mt-5 flex items-center gap-2 text-[12px] text-faint">
        <Choice
          label="Middle C is"
          value={middleC}
          options={asSaid([3, 4, 5] as const, (octave) => `C${octave}`)}
          set={setMiddleC}
        />
      </div>
      <p className="mt-4 text-[12px] text-faint">
        Select tracks to rename, move or remove them. Arrow keys go, Space selects,{' '}
        {keyNow('sheet-rename')} renames, {keyNow('sheet-instrument')} chooses what plays,{' '}
        {keyNow('sheet-silent')} silences, {keyNow('sheet-alone')} has it heard alone,{' '}
        {keyNow('sheet-up')} and {keyNow('sheet-down')} move; {keyNow('keys')} has all keys.
      </p>
    </>
  );
}

export function TrackFacts({ track, song }: { track: TrackView; song: SongView }) {
  const middleC = usePreferences((p) => p.middleC);
  const { pitch, velocity } = track;
  const others = {
    'pitch bend': track.counts.pitchBend,
    pressure: track.counts.pressure,
    'system exclusive': track.counts.systemExclusive,
    lyric: track.counts.lyrics,
    text: track.counts.texts,
    tempo: track.counts.tempos,
    meter: track.counts.meters,
    marker: track.counts.markers,
  };
  const present = Object.fromEntries(Object.entries(others).filter(([, n]) => n > 0));
  return (
    <Facts title={track.name || `Track ${song.tracks.indexOf(track) + 1}, no name`}>
      <Fact name="Channel" look={track.channels.length > 1}>
        {track.channels.join(', ') || 'none'}
        {track.ports.length > 0 && ` on port ${track.ports.map((p) => p + 1).join(', ')}`}
      </Fact>
      {track.programs.length > 0 && (
        <Fact name="Program" look={track.programs.length > 1}>
          <Programs programs={track.programs} />
        </Fact>
      )}
      <Fact name="Notes">
        {track.notes.toLocaleString('en')}
        {track.hangingNotes > 0 && (
          <span className="text-ochre">, {track.hangingNotes} never end</span>
        )}
      </Fact>
      {pitch && (
        <Fact name="Pitch">
          {keyName(pitch.lowest, middleC)} to {keyName(pitch.highest, middleC)}
        </Fact>
      )}
      {velocity && (
        <Fact name="Velocity" look={isFlat(track)}>
          {velocity.distinct === 1
            ? `${velocity.lowest} throughout`
            : `${velocity.lowest} to ${velocity.highest}, mean ${velocity.mean}`}
        </Fact>
      )}
      {track.controllers.length > 0 && (
        <Fact name="Controllers">
          <Controllers controllers={track.controllers} />
        </Fact>
      )}
      {Object.keys(present).length > 0 && <Fact name="Besides">{counts(present)}</Fact>}
      <Fact name="Events">{track.events.toLocaleString('en')}</Fact>
    </Facts>
  );
}

export function ManyFacts({ tracks }: { tracks: readonly TrackView[] }) {
  const sum = (of: (t: TrackView) => number): string =>
    tracks.reduce((n, t) => n + of(t), 0).toLocaleString('en');
  return (
    <Facts title={`${tracks.length} tracks`}>
      <Fact name="Notes">{sum((t) => t.notes)}</Fact>
      <Fact name="Events">{sum((t) => t.events)}</Fact>
      <Fact name="Channels">
        {[...new Set(tracks.flatMap((t) => t.channels))].sort((a, b) => a - b).join(', ') || 'none'}
      </Fact>
    </Facts>
  );
}

/** Of more programs than these the rest is counted. */
const mostPrograms = 6;

const Programs = ({ programs }: Pick<TrackView, 'programs'>) => (
  <>
    {programs.slice(0, mostPrograms).map((p, i) => (
      <span key={i} className="block">
        <span className="num">{p.program}</span> {p.name}
        {p.bank !== undefined && (
          <span className="num text-faint">
            {' '}
            bank {p.bank >> 7}/{p.bank & 127}
          </span>
        )}
      </span>
    ))}
    {programs.length > mostPrograms && `and ${programs.length - mostPrograms} more`}
  </>
);

const Controllers = ({ controllers }: Pick<TrackView, 'controllers'>) =>
  controllers.map((c) => (
    <span key={c.controller} className="flex justify-between gap-2">
      <span>
        <span className="num text-faint">{c.controller}</span> {c.name}
      </span>
      <span className="num">{c.count.toLocaleString('en')}</span>
    </span>
  ));

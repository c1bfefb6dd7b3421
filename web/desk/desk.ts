import type { ApiError } from '#contracts/errors.ts';
import type { StepResultView } from '#contracts/steps.ts';
import { trackView } from '#contracts/track-view.ts';
import type { Report } from '#core/operations/operation.ts';
import { forecastOf } from '#core/handoff/forecast/forecast.ts';
import type { ForecastItem } from '#core/handoff/forecast/item.ts';
import type { Limits } from '#core/handoff/receiver/receiver.ts';
import type { HandoffAsked } from '#core/handoff/settings.ts';
import { eventText, type EventsWanted } from '#core/lists/event-text.ts';
import { runStep, type StepRequest } from '#core/operations/run.ts';
import { say } from '#core/problems/sentences.ts';
import type { Division } from '#core/smf/division.ts';
import type { Events } from '#core/smf/events.ts';
import type { TextEncodingName } from '#core/smf/text.ts';
import { barCells } from '#core/song/cells.ts';
import { proposedSections, type Proposed } from '#core/song/repeats.ts';
import type { Song, Track } from '#core/song/song.ts';
import { summarise } from '#core/song/summary.ts';
import { barsUntil, meterMap, quarterTicks } from '#core/timing/meter-map.ts';
import { timingOf } from '#core/song/timing-of.ts';
import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import { songsOfFile } from '#core/work/sources.ts';
import { clipFacts, type ClipFacts } from '#core/shelf/facts.ts';
import type { TempoPoint } from '#core/timing/timing.ts';
import { meantBy, type Asked, type Meant } from './meant.ts';
import { TrackStore } from './track-store.ts';
import { playedSong } from './played-song.ts';
import type { PlayedSong } from '../sound/messages.ts';
import { pictureOf, type Picture } from './picture.ts';

/** A song as the page knows it, without its events: enough to try steps on. */
export interface SongOutline {
  readonly title: string;
  readonly format: number;
  readonly division: Division;
  readonly encoding: string;
  /** What chunks of other kinds are called. */
  readonly chunks: readonly string[];
  readonly tracks: readonly {
    readonly id: string;
    readonly sha256: string;
    readonly parked?: readonly string[] | undefined;
    readonly instrument?: InstrumentDefinition | undefined;
  }[];
}

/** A preview with pictures of what changes, by track id, and the tempos as they would be where those change. */
export interface Tried extends StepResultView {
  readonly tempos?: readonly TempoPoint[];
  readonly pictures: Readonly<Record<string, Picture>>;
}

export type Trial =
  { readonly ok: true; readonly value: Tried } | { readonly ok: false; readonly problem: ApiError };

export type Forecast =
  | { readonly ok: true; readonly value: readonly ForecastItem[] }
  | { readonly ok: false; readonly problem: ApiError };

/** More tempos are not shown before they are there. */
const mostTempos = 20_000;
/** How many changed tracks are described. */
const mostShown = 20;

/** Where steps are tried: the page's own copy of the song, on which the same functions run as on the server. */
export class Desk {
  private readonly tracks: TrackStore;
  private last: { key: string; song: Song } | undefined;

  constructor(fetchTracks: (hashes: readonly string[]) => Promise<readonly Events[]>) {
    this.tracks = new TrackStore(fetchTracks);
  }

  /** The events of tracks by their hashes, for whatever the page draws of them. */
  eventsOf(hashes: readonly string[]): Promise<Events[]> {
    return this.tracks.events(hashes);
  }

  /** What is heard of one of the songs in a file, or of one track of it. */
  playedFile(bytes: Uint8Array, part: number, track?: string): PlayedSong {
    const read = songsOfFile({ bytes, fileName: '' });
    const song = read.ok ? read.value.songs[part - 1] : undefined;
    if (!song) throw new Error('A file that was read before cannot be read');
    return playedSong(song, track);
  }

  /** What a file is as clips: one for each song in it. */
  clipsOf(bytes: Uint8Array, fileName: string): { name: string; facts: ClipFacts }[] {
    const read = songsOfFile({ bytes, fileName });
    if (!read.ok) throw new Error(say(read.problem).message);
    return read.value.songs.map((song) => ({
      name: song.title,
      facts: clipFacts(song, song.title),
    }));
  }

  async tryStep(outline: SongOutline, revision: number, request: StepRequest): Promise<Trial> {
    const song = await this.open(outline);
    const result = runStep(song, request);
    if (!result.ok) return { ok: false, problem: say(result.problem) };
    const { song: after, report, described } = result.value;
    const changed = changedTracks(after, report);
    const cells = barCells(
      meterMap(timingOf(after).meters, after.division),
      timingOf(after).endTick,
      after.tracks.length,
    );
    const pictures: Record<string, Picture> = {};
    for (const track of changed) {
      const before = song.tracks.find((t) => t.id === track.id);
      const picture = before && pictureOf(before.events, track.events, song.division);
      if (picture) pictures[track.id] = picture;
    }
    const tempos = changedTempos(song, after);
    return {
      ok: true,
      value: {
        ...(tempos ? { tempos } : {}),
        revision,
        changed: report.changes.length > 0,
        preview: true,
        described,
        report,
        after: changed.map((t) => trackView(summarise(t, cells, after.encoding), '')),
        pictures,
      },
    };
  }

  /** The events that findings are about. */
  async meant(outline: SongOutline, findings: readonly Asked[]): Promise<Meant> {
    return meantBy(await this.open(outline), findings);
  }

  /** What will not arrive if the song is handed off so, or arrives changed. */
  async forecast(outline: SongOutline, asked: HandoffAsked, limits?: Limits): Promise<Forecast> {
    const made = forecastOf(await this.open(outline), asked, limits);
    return made.ok ? made : { ok: false, problem: say(made.problem) };
  }

  /** Sections of a song, told from what repeats. */
  async repeats(outline: SongOutline): Promise<Proposed[]> {
    const song = await this.open(outline);
    const { meters, endTick } = timingOf(song);
    const map = meterMap(meters, song.division);
    const events = song.tracks.map((t) => t.events);
    return proposedSections(events, map, barsUntil(map, endTick));
  }

  /** Events of a song as a text, a line each. */
  async textOf(outline: SongOutline, wanted: EventsWanted): Promise<string> {
    return eventText(await this.open(outline), wanted);
  }

  /** What is heard of a song, or of one track of it: without what is parked or stays. */
  async played(outline: SongOutline, track?: string): Promise<PlayedSong> {
    return playedSong(await this.open(outline), track);
  }

  /** The same as it would be with steps, one after another; without those that cannot be taken. */
  async playedWith(outline: SongOutline, requests: readonly StepRequest[]): Promise<PlayedSong> {
    let song = await this.open(outline);
    for (const request of requests) {
      const result = runStep(song, request);
      if (result.ok) song = result.value.song;
    }
    return playedSong(song);
  }

  /** The song with its events. */
  private async open(outline: SongOutline): Promise<Song> {
    const key = JSON.stringify(outline);
    if (this.last?.key === key) return this.last.song;
    const events = await this.tracks.events(outline.tracks.map((t) => t.sha256));
    const tracks = outline.tracks.map(({ id, parked, instrument }, n): Track => ({
      id,
      events: events[n]!,
      ...(parked?.length ? { parked } : {}),
      ...(instrument ? { instrument } : {}),
    }));
    const song: Song = {
      title: outline.title,
      format: outline.format as Song['format'],
      division: outline.division,
      encoding: outline.encoding as TextEncodingName,
      tracks,
      // What a trial never looks at stays on the server; of chunks it is told that they are there.
      headerExtra: new Uint8Array(0),
      alienChunks: outline.chunks.map((id) => ({
        beforeTrack: 0,
        id,
        body: new Uint8Array(0),
      })),
      nextTrack: 1_000_000,
    };
    this.last = { key, song };
    return song;
  }
}

function changedTempos(before: Song, after: Song): readonly TempoPoint[] | undefined {
  const [was, is] = [timingOf(before).tempos, timingOf(after).tempos];
  if (
    is.length > mostTempos ||
    before.division.kind === 'smpte' ||
    quarterTicks(before.division) !== quarterTicks(after.division)
  )
    return undefined;
  return was.length === is.length &&
    is.every((p, i) => p.atTick === was[i]!.atTick && p.tempo === was[i]!.tempo)
    ? undefined
    : is;
}

function changedTracks(song: Song, { changes }: Report): Track[] {
  const changed = new Set(changes.map((c) => c.track));
  return song.tracks.filter((t) => changed.has(t.id)).slice(0, mostShown);
}

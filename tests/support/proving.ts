import { formFile, planHandoff, type Planned } from '#core/handoff/handoff.ts';
import { layOut } from '#core/handoff/layout.ts';
import { proveFile } from '#core/handoff/proof/prove-file.ts';
import type { HandoffAsked } from '#core/handoff/settings.ts';
import type { Smf } from '#core/smf/smf.ts';
import { writeSmf } from '#core/smf/write.ts';
import type { Song } from '#core/song/song.ts';

/** Where a fault is planted: in what leaves, in how it is laid out, in the plan, or in the bytes. */
export interface Fault {
  readonly leaving?: (song: Song) => Song;
  readonly laid?: (smf: Smf) => Smf;
  readonly planned?: (planned: Planned) => Planned;
  readonly name?: string;
}

export function plan(song: Song, asked: HandoffAsked): Planned {
  const planned = planHandoff(song, asked);
  if (!planned.ok) throw new Error(JSON.stringify(planned.problem));
  return planned.value;
}

/**
 * What the proof says of the files of a handoff that were made under one list of settings, with a fault
 * planted, and are proven under another.
 */
export function proveWith(
  song: Song,
  made: HandoffAsked,
  fault: Fault = {},
  proven: HandoffAsked = made,
): string[] {
  const planned = (fault.planned ?? ((p) => p))(plan(song, made));
  const { wanted } = plan(song, proven);
  return planned.plan.files.flatMap((file) => {
    const formed = formFile(planned, file);
    if (!formed.ok) throw new Error(formed.problem.code);
    const leaving = (fault.leaving ?? ((s) => s))(formed.value.song);
    const { form, take } = planned.wanted;
    const isWhole = leaving.tracks.every((t, n) => t === planned.plan.song.tracks[n]);
    const asRead = isWhole ? song : { ...song, format: 1 as const };
    const { wrapper, ...bare } = leaving;
    const layout = layOut(isWhole ? leaving : bare, asRead, {
      format: form.format === 'karaoke' ? 1 : form.format,
      chunks: form.chunks,
      oneTrack: form.tracks === 'one',
      sayable: { names: take.instrumentNames, prefixes: take.ports, texts: take.texts },
    });
    const laid = (fault.laid ?? ((s) => s))(layout.smf);
    const bytes = writeSmf(laid, { runningStatus: form.runningStatus });
    const name = fault.name ?? file.name;
    const whole = { plan: planned.plan, source: planned.source, wanted };
    return proveFile(whole, file, { bytes, name, leaving, written: leaving, laid, asRead })
      .differences;
  });
}

import { z } from 'zod';
import {
  clefs,
  definitionSchema,
  type InstrumentDefinition,
} from '#core/instruments/definition.ts';
import { controllersText, keysText, keyText, readControllers, readKey, readKeys } from './lines.ts';

/** A definition as its form has it: what is typed is text. */
export interface InstrumentForm {
  readonly name: string;
  readonly maker: string;
  readonly model: string;
  readonly label: string;
  /** `program 1` or `kit 1`. */
  readonly heard: string;
  readonly sends: boolean;
  readonly program: string;
  readonly bank: string;
  readonly lowest: string;
  readonly highest: string;
  readonly easyLowest: string;
  readonly easyHighest: string;
  readonly voices: string;
  readonly transposition: string;
  readonly clef: (typeof clefs)[number];
  readonly controllers: string;
  readonly keys: string;
  readonly source: string;
}

export function formOf(d: InstrumentDefinition, middleC: number): InstrumentForm {
  const key = (n: number | undefined): string => (n === undefined ? '' : keyText(n, middleC));
  return {
    name: d.name,
    maker: d.maker,
    model: d.model,
    label: d.label,
    heard: `${d.drums ? 'kit' : 'program'} ${d.program}`,
    sends: d.sends !== null,
    program: String(d.sends?.program ?? d.program),
    bank: d.sends?.bank == null ? '' : `${d.sends.bank >> 7}/${d.sends.bank & 127}`,
    lowest: key(d.playable?.lowest),
    highest: key(d.playable?.highest),
    easyLowest: key(d.comfortable?.lowest),
    easyHighest: key(d.comfortable?.highest),
    voices: d.voices === null ? '' : String(d.voices),
    transposition: String(d.transposition),
    clef: d.clef,
    controllers: controllersText(d.controllers),
    keys: keysText(d.keys),
    source: d.source,
  };
}

/** What is wrong, and with which field. */
class Wrong extends Error {}

/** Words for the fields that the schema itself finds wrong. */
const words: Readonly<Record<string, string>> = {
  name: 'A name, please.',
  voices: 'Voices: a number from 1 to 128, or nothing.',
  transposition: 'Transposition: semitones from −48 to 48.',
  playable: 'Range: the lowest key is above the highest.',
  comfortable: 'The comfortable keys lie within those that can be played, the lowest first.',
  keys: 'A key has two names.',
  controllers: 'A controller has two names, or a number that is none.',
  sends: 'Sent program: 1 to 128, and a bank such as 81/2.',
};

/**
 * The definition that a form says, or what is wrong with it. What was not touched of `before` stays as it
 * was, also where a line of text says it less exactly.
 */
export function definitionOf(
  form: InstrumentForm,
  before: InstrumentDefinition,
  middleC: number,
):
  | { readonly ok: true; readonly value: InstrumentDefinition }
  | { readonly ok: false; readonly why: string } {
  const was = formOf(before, middleC);
  try {
    const { heard, sends, keys, controllers } = form;
    const [kind, program] = heard.split(' ');
    const parsed = definitionSchema.safeParse({
      ...pick(form),
      drums: kind === 'kit',
      program: Number(program),
      sends: sends ? { program: number(form.program), bank: bankOf(form.bank) } : null,
      playable: range(form.lowest, form.highest, 'Range', middleC),
      comfortable: range(form.easyLowest, form.easyHighest, 'Comfortable', middleC),
      voices: number(form.voices),
      transposition: number(form.transposition) ?? 0,
      keys: keys === was.keys ? before.keys : rows(readKeys(keys, middleC)),
      controllers:
        controllers === was.controllers ? before.controllers : rows(readControllers(controllers)),
    });
    if (parsed.success) return { ok: true, value: parsed.data };
    const [at] = parsed.error.issues;
    const field = String(at!.path[0] ?? '');
    return { ok: false, why: words[field] ?? `${field}: ${at!.message}` };
  } catch (error) {
    if (!(error instanceof Wrong)) throw error;
    return { ok: false, why: error.message };
  }
}

const pick = ({ name, maker, model, label, clef, source }: InstrumentForm) => ({
  name,
  maker,
  model,
  label,
  clef,
  source,
});

const number = (text: string): number | null =>
  text.trim() === '' ? null : Number(text.replace('−', '-'));

function rows<T>(read: { ok: true; rows: T[] } | { ok: false; why: string }): T[] {
  if (!read.ok) throw new Wrong(read.why);
  return read.rows;
}

/** Two keys; null where neither is said. */
function range(
  low: string,
  high: string,
  what: string,
  middleC: number,
): { lowest: number; highest: number } | null {
  if (low.trim() === '' && high.trim() === '') return null;
  const [lowest, highest] = [low, high].map((said) => readKey(said.trim(), middleC));
  if (lowest === undefined || highest === undefined)
    throw new Wrong(`${what}: two keys by their names, such as C4, or numbers from 0 to 127.`);
  return { lowest, highest };
}

/** `81/2`: controllers 0 and 32; one number alone is both as one. */
function bankOf(text: string): number | null {
  if (text.trim() === '') return null;
  const [, coarse, fine] = /^\s*(\d+)(?:\s*\/\s*(\d+))?\s*$/.exec(text) ?? [];
  if (coarse === undefined || (fine !== undefined && (Number(coarse) > 127 || Number(fine) > 127)))
    throw new Wrong('Bank: controllers 0 and 32 such as 81/2, each up to 127; or nothing.');
  return fine === undefined ? Number(coarse) : Number(coarse) * 128 + Number(fine);
}

/** The form checks itself when it is saved. */
export const formSchema = (before: InstrumentDefinition, middleC: number) =>
  z.custom<InstrumentForm>().transform((form, context) => {
    const made = definitionOf(form, before, middleC);
    if (made.ok) return made.value;
    context.addIssue({ code: 'custom', message: made.why, path: ['name'] });
    return z.NEVER;
  });

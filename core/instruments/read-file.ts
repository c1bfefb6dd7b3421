import { ok, refused, type Problem, type Result } from '../problems/problems.ts';
import { definitionFileSchema, definitionSchema } from './definition.ts';
import { readMidnam, type MidnamRead } from './midnam/read.ts';

/** Instruments of a file: definitions as JSON, one or `{"instruments": […]}`, or a MIDI name document. */
export function readInstruments(bytes: Uint8Array): Result<MidnamRead, Problem> {
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 200)).replace(/^[^\w<{]*/, '');
  if (start.startsWith('<')) return readMidnam(bytes);
  let given: unknown;
  try {
    given = JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    return refused({
      code: 'instruments-unreadable',
      where: {},
      why: 'it is neither JSON nor XML',
    });
  }
  const several = typeof given === 'object' && given !== null && 'instruments' in given;
  const parsed = (several ? definitionFileSchema : definitionSchema).safeParse(given);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    const where = issue.path.join('.');
    return refused({
      code: 'instruments-unreadable',
      where: where ? { field: where } : {},
      why: `${where ? `${where}: ` : ''}${issue.message}`,
    });
  }
  const { data } = parsed;
  return ok({ instruments: 'instruments' in data ? data.instruments : [data], told: [] });
}

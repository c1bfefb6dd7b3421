import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { schemaFault } from './schema-fault.ts';

const form = z.strictObject({
  divide: z.enum(['whole', 'tracks']).optional(),
  tracks: z.array(z.string().max(4)).min(1).max(2).optional(),
  bars: z.strictObject({ from: z.int().min(1).max(9) }).optional(),
  at: z.union([z.literal('start'), z.strictObject({ bar: z.int() })]).optional(),
  name: z.string().min(1).optional(),
});
const said = (value: unknown): [string | undefined, string, string] => {
  const read = form.safeParse(value);
  if (read.success) throw new Error('it was taken');
  const fault = schemaFault('body', read.error, value);
  if (fault.code !== 'settings-invalid') throw new Error(fault.code);
  return [fault.where.field, fault.expected, fault.found];
};

describe('a value that a schema does not take: what was expected, and what was found', () => {
  it.each([
    [{ divide: 'drums' }, 'body.divide', 'one of "whole", "tracks"', '"drums"'],
    [{ divide: 3 }, 'body.divide', 'one of "whole", "tracks"', '3'],
    [{ tracks: [] }, 'body.tracks', 'at least 1 entry', 'a list of 0'],
    [{ tracks: ['a', 'b', 'c'] }, 'body.tracks', 'at most 2 entries', 'a list of 3'],
    [{ tracks: ['abcde'] }, 'body.tracks.0', 'at most 4 characters', '"abcde"'],
    [{ tracks: 't1' }, 'body.tracks', 'a list', '"t1"'],
    [{ bars: { from: 0 } }, 'body.bars.from', 'at least 1', '0'],
    [{ bars: { from: 10 } }, 'body.bars.from', 'at most 9', '10'],
    [{ bars: {} }, 'body.bars.from', 'a number', 'nothing'],
    [{ bars: { from: 1.5 } }, 'body.bars.from', 'a whole number', '1.5'],
    [{ bars: null }, 'body.bars', 'an object', 'null'],
    [{ name: '' }, 'body.name', 'at least 1 character', '""'],
    [{ name: 5 }, 'body.name', 'a text', '5'],
    [
      { lanes: [], more: 1 },
      'body',
      'no other fields than those that are described',
      'lanes, more',
    ],
    [{ at: 'end' }, 'body.at', 'one of "start", an object', '"end"'],
  ])('%j', (value, ...expected) => {
    expect(said(value)).toEqual(expected);
  });

  it('shows no more of a text than a line, and nothing of what is in an object', () => {
    expect(said({ divide: 'x'.repeat(500) })[2]).toBe(`"${'x'.repeat(80)}…"`);
    expect(said({ divide: { secret: 1 } })[2]).toBe('an object');
    expect(schemaFault('body', form.safeParse([]).error!, []).where.field).toBe('body');
  });
});

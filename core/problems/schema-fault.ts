import type { z } from 'zod';
import type { Problem } from './problems.ts';

type SettingsFault = Extract<Problem, { code: 'settings-invalid' }>;

/** Longest text that a sentence shows of what was found. */
const maxShown = 80;
/** Most values that a sentence lists. */
const maxListed = 12;

/** The first fault of a validation, as a problem that names the field, what it may be and what it is. */
export function schemaFault(root: string, error: z.ZodError, value: unknown): SettingsFault {
  const [issue] = error.issues;
  const path = issue?.path ?? [];
  return {
    code: 'settings-invalid',
    where: { field: [root, ...path].join('.') },
    expected: issue ? expectedBy(issue) : 'what is described',
    found:
      issue?.code === 'unrecognized_keys' ? shortened(issue.keys.join(', ')) : foundAt(value, path),
  };
}

/** The same as words within a sentence: which field should be what, and is what. */
export function schemaFaultWords(root: string, error: z.ZodError, value: unknown): string {
  const { where, expected, found } = schemaFault(root, error, value);
  return `${where.field} should be ${expected}, and is ${found}`;
}

function expectedBy(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'too_small':
      return `at least ${issue.minimum}${unitOf(issue.origin, Number(issue.minimum))}`;
    case 'too_big':
      return `at most ${issue.maximum}${unitOf(issue.origin, Number(issue.maximum))}`;
    case 'unrecognized_keys':
      return 'no other fields than those that are described';
    case 'invalid_type':
      return withArticle(issue.expected);
    case 'invalid_value':
      return listed(issue.values.map((value) => JSON.stringify(value) ?? String(value)));
    case 'invalid_union':
      return expectedByAny(issue);
    default:
      return issue.message;
  }
}

/** What any of several forms would have been; of many the first ones. */
function expectedByAny({ errors }: Extract<z.core.$ZodIssue, { code: 'invalid_union' }>): string {
  const each = errors.flatMap(([first]) =>
    first
      ? [`${first.path.length > 0 ? `${first.path.join('.')}: ` : ''}${expectedBy(first)}`]
      : [],
  );
  return each.length === 0 ? 'one of the forms that are described' : listed([...new Set(each)]);
}

const units: Readonly<Record<string, readonly [string, string]>> = {
  string: ['character', 'characters'],
  array: ['entry', 'entries'],
  set: ['entry', 'entries'],
};
const unitOf = (origin: string, n: number): string =>
  units[origin] ? ` ${units[origin][n === 1 ? 0 : 1]}` : '';

const types: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'null',
  undefined: 'nothing',
  never: 'nothing',
};
const withArticle = (type: string): string => types[type] ?? type;

const listed = (values: readonly string[]): string =>
  values.length > maxListed
    ? `one of ${values.slice(0, maxListed).join(', ')}, and ${values.length - maxListed} others`
    : values.length === 1
      ? values[0]!
      : `one of ${values.join(', ')}`;

function foundAt(value: unknown, path: readonly PropertyKey[]): string {
  let at = value;
  for (const key of path) at = (at as Record<PropertyKey, unknown> | null | undefined)?.[key];
  if (at === undefined) return 'nothing';
  if (typeof at === 'string') return `"${shortened(at)}"`;
  if (Array.isArray(at)) return `a list of ${at.length}`;
  if (typeof at === 'object' && at !== null) return 'an object';
  return String(at);
}

const shortened = (text: string): string =>
  text.length > maxShown ? `${text.slice(0, maxShown)}…` : text;

import type { Problem } from './problems.ts';

/** Deeper than any request that means something; what is nested deeper costs a stack wherever it is walked. */
const deepest = 40;

const half = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

/** Why a text cannot be taken; undefined where it can. */
const textFault = (text: string): string | undefined =>
  text.includes('\0')
    ? 'a NUL character'
    : half.test(text)
      ? 'half of a surrogate pair'
      : undefined;

/** A value that holds others, with the way to it; ways are only put into words where something is wrong. */
interface Holder {
  readonly value: object;
  readonly key: string;
  readonly above: Holder | undefined;
  readonly depth: number;
}

/** What in a request's values cannot be taken, whatever they mean: by field. Walks without recursion. */
export function valueFault(root: string, value: unknown): Problem | undefined {
  if (typeof value === 'string') return textProblem(root, textFault(value));
  if (typeof value !== 'object' || value === null) return undefined;
  const left: Holder[] = [{ value, key: root, above: undefined, depth: 0 }];
  for (let holder = left.pop(); holder; holder = left.pop()) {
    if (holder.depth > deepest)
      return {
        code: 'body-unreadable',
        where: { field: root },
        why: `values nested more than ${deepest} deep`,
      };
    const fault = faultWithin(holder, left);
    if (fault) return fault;
  }
  return undefined;
}

/** What is wrong with the names and texts of a holder; the holders within it are left for later. */
function faultWithin(holder: Holder, left: Holder[]): Problem | undefined {
  const { value, depth } = holder;
  const look = (inner: unknown, key: string | number): Problem | undefined => {
    if (typeof inner === 'object' && inner !== null)
      left.push({ value: inner, key: String(key), above: holder, depth: depth + 1 });
    const why = typeof inner === 'string' ? textFault(inner) : undefined;
    return textProblem(why && `${wayTo(holder)}.${key}`.slice(0, 200), why);
  };
  if (Array.isArray(value)) {
    for (let n = 0; n < value.length; n++) {
      const fault = look(value[n], n);
      if (fault) return fault;
    }
    return undefined;
  }
  for (const key of Object.keys(value)) {
    const why = textFault(key);
    if (why)
      return {
        code: 'settings-invalid',
        where: { field: wayTo(holder) },
        expected: 'names that can be kept',
        found: why,
      };
    const fault = look((value as Record<string, unknown>)[key], key);
    if (fault) return fault;
  }
  return undefined;
}

const textProblem = (field: string | undefined, why: string | undefined): Problem | undefined =>
  field === undefined || why === undefined
    ? undefined
    : { code: 'settings-invalid', where: { field }, expected: 'text that can be kept', found: why };

function wayTo(holder: Holder): string {
  const keys: string[] = [];
  for (let at: Holder | undefined = holder; at; at = at.above) keys.unshift(at.key);
  return keys.join('.').slice(0, 200);
}

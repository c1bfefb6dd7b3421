import type { Problem } from '#core/problems/problems.ts';

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

/** What in a request's values cannot be taken, whatever they mean: by field. Walks without recursion. */
export function valueFault(root: string, value: unknown): Problem | undefined {
  const left: { at: string; value: unknown; depth: number }[] = [{ at: root, value, depth: 0 }];
  for (let next = left.pop(); next; next = left.pop()) {
    if (next.depth > deepest)
      return {
        code: 'body-unreadable',
        where: { field: root },
        why: `values nested more than ${deepest} deep`,
      };
    const { at, depth } = next;
    if (typeof next.value === 'string') {
      const why = textFault(next.value);
      if (why)
        return {
          code: 'settings-invalid',
          where: { field: at },
          expected: 'text that can be kept',
          found: why,
        };
    } else if (typeof next.value === 'object' && next.value !== null) {
      for (const [key, inner] of Object.entries(next.value)) {
        const why = textFault(key);
        if (why)
          return {
            code: 'settings-invalid',
            where: { field: at },
            expected: 'names that can be kept',
            found: why,
          };
        left.push({ at: `${at}.${key}`.slice(0, 200), value: inner, depth: depth + 1 });
      }
    }
  }
  return undefined;
}

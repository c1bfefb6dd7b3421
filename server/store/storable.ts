/** What PostgreSQL's text cannot hold: NUL, and halves of surrogate pairs. */
const unstorable = /\0|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** A text in which what cannot be stored stands escaped, `\u0000`; the bytes of a file keep it as it came. */
export const storableText = (text: string): string =>
  text.replace(unstorable, (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`);

/** A value as JSON can be stored: the same object where every text in it can. */
export function storable<T>(value: T): T {
  const json = JSON.stringify(value);
  if (json === undefined || !/\\u(0000|d[89a-f])/i.test(json)) return value;
  return JSON.parse(json, (_, part: unknown) =>
    typeof part === 'string' ? storableText(part) : part,
  ) as T;
}

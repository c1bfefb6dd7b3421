/** More named values than any request has that means something: checking them would hold up everybody. */
export const maxBodyKeys = 150_000;

const [quote, backslash, colon] = [0x22, 0x5c, 0x3a];

/** How many named values a body of JSON has, counted before it is read: colons outside of texts. */
export function countKeys(body: Uint8Array): number {
  let keys = 0;
  let isText = false;
  for (let at = 0; at < body.length; at++) {
    const byte = body[at]!;
    if (byte === quote) isText = !isText;
    else if (isText && byte === backslash) at++;
    else if (!isText && byte === colon) keys++;
  }
  return keys;
}

/** An error of the middleware that reads bodies, which the error handler knows by its type. */
export class BodyTooWide extends Error {
  readonly type = 'body.too.wide';
  readonly keys: number;

  constructor(keys: number) {
    super('too many named values');
    this.keys = keys;
  }
}

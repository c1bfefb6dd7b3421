/** A value as it is shown: plain, and nobody's to change. */
export type Shown<T> = T extends
  string | number | boolean | bigint | symbol | null | undefined | Uint8Array
  ? T
  : T extends readonly unknown[]
    ? { readonly [K in keyof T]: Shown<T[K]> }
    : unknown extends T
      ? T
      : { readonly [K in keyof T]: Shown<T[K]> };

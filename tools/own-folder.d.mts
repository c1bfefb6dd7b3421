/** Types of own-folder.mjs, for the tests. */
export interface User {
  readonly uid: number;
  readonly gid: number;
}
export function isOurs(folder: string, user: User): boolean;
export function ownFolder(folder: string, user: User): string;
export function writeOwn(file: string, text: string, user: User | undefined): void;
export function readOwn(file: string): string | undefined;

/**
 * Every request that the API answers, by name: its method and path. What is sent and answered is in
 * `routes.ts`, under the same names.
 */
export const addresses = {
  bringIn: 'POST /api/songs',
  listSongs: 'GET /api/songs',
  getSong: 'GET /api/songs/{id}',
  tagSong: 'PUT /api/songs/{id}/tags',
  removeSong: 'DELETE /api/songs/{id}',
  restoreSong: 'POST /api/songs/{id}/restore',
  getTempos: 'GET /api/songs/{id}/tempos',
  listGuesses: 'GET /api/songs/{id}/guesses',
  listChords: 'GET /api/songs/{id}/chords',
  listKeys: 'GET /api/songs/{id}/keys',
  getMap: 'GET /api/songs/{id}/map.mid',
  getOriginal: 'GET /api/songs/{id}/original',
  addOriginals: 'POST /api/originals',
  getContents: 'GET /api/originals/{sha256}',
  getFile: 'GET /api/originals/{sha256}/file',
  getFileSource: 'GET /api/originals/{sha256}/source',
  setFileSource: 'PUT /api/originals/{sha256}/source',
  listOperations: 'GET /api/operations',
  takeStep: 'POST /api/songs/{id}/steps',
  listSteps: 'GET /api/songs/{id}/steps',
  undo: 'POST /api/songs/{id}/undo',
  redo: 'POST /api/songs/{id}/redo',
  goTo: 'POST /api/songs/{id}/go',
  getStepBars: 'GET /api/songs/{id}/steps/{revision}/bars',
  listFindings: 'GET /api/songs/{id}/findings',
  leaveFinding: 'POST /api/songs/{id}/findings',
  handOff: 'POST /api/songs/{id}/handoffs',
  listHandoffs: 'GET /api/songs/{id}/handoffs',
  getOut: 'GET /api/songs/{id}/out/{name}',
  getHandoff: 'GET /api/handoffs/{id}',
  getHandoffFile: 'GET /api/handoffs/{id}/files/{name}',
  getHandoffFiles: 'GET /api/handoffs/{id}/files.zip',
  getSlip: 'GET /api/handoffs/{id}/slip',
  getSlipPage: 'GET /api/handoffs/{id}/slip.html',
  getSatchel: 'GET /api/handoffs/{id}/satchel.zip',
  addLink: 'POST /api/handoffs/{id}/links',
  listLinks: 'GET /api/handoffs/{id}/links',
  revokeLink: 'DELETE /api/handoffs/{id}/links/{link}',
  openLink: 'GET /l/{secret}',
  getLinkFile: 'GET /l/{secret}/{name}',
  listReceivers: 'GET /api/receivers',
  addReceiver: 'POST /api/receivers',
  addReceivers: 'POST /api/receivers/file',
  getReceivers: 'GET /api/receivers/file',
  changeReceiver: 'PUT /api/receivers/{id}',
  removeReceiver: 'DELETE /api/receivers/{id}',
  restoreReceiver: 'POST /api/receivers/{id}/restore',
  getBlob: 'GET /api/blobs/{sha256}',
  getBlobs: 'POST /api/blobs',
  getSounds: 'GET /api/sounds',
  listBanks: 'GET /api/banks',
  addBank: 'POST /api/banks',
  getBank: 'GET /api/banks/{sha256}',
  removeBank: 'DELETE /api/banks/{sha256}',
  listClips: 'GET /api/shelf/clips',
  addClips: 'POST /api/shelf/clips',
  getShelfFile: 'GET /api/shelf/file.zip',
  cutClip: 'POST /api/shelf/cut',
  changeClip: 'PUT /api/shelf/clips/{id}',
  removeClip: 'DELETE /api/shelf/clips/{id}',
  restoreClip: 'POST /api/shelf/clips/{id}/restore',
  listFolders: 'GET /api/shelf/folders',
  moveFolder: 'PUT /api/shelf/folders',
  listRecipes: 'GET /api/recipes',
  addRecipe: 'POST /api/recipes',
  changeRecipe: 'PUT /api/recipes/{id}',
  removeRecipe: 'DELETE /api/recipes/{id}',
  restoreRecipe: 'POST /api/recipes/{id}/restore',
  getRecipeFile: 'GET /api/recipes/file',
  takeRecipeFile: 'POST /api/recipes/file',
  getPreferences: 'GET /api/preferences',
  keepPreferences: 'PUT /api/preferences',
  listInstruments: 'GET /api/instruments',
  addInstruments: 'POST /api/instruments',
  readInstruments: 'POST /api/instruments/read',
  writeInstruments: 'GET /api/instruments/file',
  changeInstrument: 'PUT /api/instruments/{id}',
  removeInstrument: 'DELETE /api/instruments/{id}',
  restoreInstrument: 'POST /api/instruments/{id}/restore',
  getHealth: 'GET /api/health',
} as const;

export type RouteName = keyof typeof addresses;
export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

type PathOf<N extends RouteName> = (typeof addresses)[N] extends `${Method} ${infer Path}`
  ? Path
  : never;
type NamesIn<Path> = Path extends `${string}{${infer Name}}${infer Rest}`
  ? Name | NamesIn<Rest>
  : never;

/** What stands in the path of a request. */
export type Params<N extends RouteName> = { readonly [K in NamesIn<PathOf<N>>]: string };

export function addressOf(name: RouteName): { readonly method: Method; readonly path: string } {
  const [method, path] = addresses[name].split(' ') as [Method, string];
  return { method, path };
}

/** The address of a request with what stands in it. */
export function urlOf<N extends RouteName>(name: N, params: Params<N>, query: object = {}): string {
  const given: Readonly<Record<string, string>> = params;
  const path = addressOf(name).path.replace(/\{(\w+)\}/g, (_, key: string) =>
    encodeURIComponent(given[key]!),
  );
  const asked = Object.entries(query)
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => `${key}=${encodeURIComponent(String(value))}`);
  return asked.length > 0 ? `${path}?${asked.join('&')}` : path;
}

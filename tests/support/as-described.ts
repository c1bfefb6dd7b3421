import { Ajv2020 } from 'ajv/dist/2020.js';
import formats from 'ajv-formats';
import { openApi } from '#contracts/openapi.ts';

/** The document as it is sent. */
const described = JSON.parse(JSON.stringify(openApi())) as {
  paths: Record<
    string,
    Record<string, { responses: Record<string, { content?: Record<string, object> }> }>
  >;
};

/** An independent validator of JSON Schema 2020-12 (npm ajv 8), which OpenAPI 3.1 takes its schemas from. */
const ajv = new Ajv2020({ strict: false, allErrors: true });
formats.default(ajv);
ajv.addSchema(described, 'api');

const paths = Object.keys(described.paths).map((path) => ({
  path,
  fits: new RegExp(`^${path.replace(/\{\w+\}/g, '[^/]+').replaceAll('.', '\\.')}$`),
}));
const pointer = (part: string): string =>
  part.replaceAll('~', '~0').replaceAll('/', '~1').replaceAll('{', '%7B').replaceAll('}', '%7D');

/**
 * What about an answer is not as the document says; nothing where it is, or where nothing is described at
 * that address.
 */
export function notAsDescribed(
  method: string,
  path: string,
  status: number,
  mediaType: string,
  text: string,
): string[] {
  const found = paths.find(({ fits }) => fits.test(path));
  const operation = found && described.paths[found.path]![method.toLowerCase()];
  if (!operation) return [];
  const answer = operation.responses[status];
  if (!answer) return [`status ${status} is not described`];
  if (!answer.content) return text === '' ? [] : ['an answer where none is described'];
  if (!(mediaType in answer.content))
    return [`media type ${mediaType}, and described is ${Object.keys(answer.content).join(', ')}`];
  if (mediaType !== 'application/json') return [];
  const check = ajv.getSchema(
    `api#/paths/${pointer(found.path)}/${method.toLowerCase()}/responses/${status}/content/application~1json/schema`,
  )!;
  return check(JSON.parse(text))
    ? []
    : check.errors!.map(
        (e) => `${e.instancePath || 'the answer'} ${e.message} ${JSON.stringify(e.params)}`,
      );
}

let watched = false;

/**
 * From now on every answer of the API that a test fetches is held against the document; one that is not as
 * described fails the test.
 */
export function watchAnswers(): void {
  if (watched) return;
  watched = true;
  const fetchOnly = globalThis.fetch;
  globalThis.fetch = async (input, init) => {
    const response = await fetchOnly(input, init);
    const { pathname } = new URL(input instanceof Request ? input.url : input);
    if (!pathname.startsWith('/api/')) return response;
    const method = init?.method ?? (input instanceof Request ? input.method : 'GET');
    const mediaType = (response.headers.get('content-type') ?? '').split(';')[0]!;
    const text =
      mediaType === 'application/json' || response.status === 204
        ? await response.clone().text()
        : 'bytes';
    const faults = notAsDescribed(method, pathname, response.status, mediaType, text);
    if (faults.length > 0)
      throw new Error(
        `${method} ${pathname} answers ${response.status} not as described: ${faults.slice(0, 5).join('; ')}`,
      );
    return response;
  };
}

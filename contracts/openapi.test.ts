import { Validator } from '@seriousme/openapi-schema-validator';
import { describe, expect, it } from 'vitest';
import { notAsDescribed } from '../tests/support/as-described.ts';
import { addresses, urlOf } from './addresses.ts';
import { openApi } from './openapi.ts';

const document = JSON.parse(JSON.stringify(openApi())) as ReturnType<typeof openApi>;
const operations = Object.values(document.paths).flatMap(
  (path) =>
    Object.values(path) as {
      operationId: string;
      tags: string[];
      responses: Record<string, unknown>;
    }[],
);

describe('the document of the API', () => {
  it('is OpenAPI 3.1 by an independent validator (npm @seriousme/openapi-schema-validator 2.11, with the schemas of the OpenAPI Initiative)', async () => {
    const validator = new Validator();
    expect(await validator.validate(structuredClone(document))).toEqual({ valid: true });
    expect(validator.version).toBe('3.1');
  });

  it('has an operation with an id and a tag for every address, and names its answers as components', () => {
    expect(operations.map((o) => o.operationId).sort()).toEqual(Object.keys(addresses).sort());
    expect(new Set(operations.flatMap((o) => o.tags))).toEqual(
      new Set(document.tags.map((t) => t.name)),
    );
    expect(document.components.schemas.Song).toMatchObject({
      type: 'object',
      properties: { tracks: { items: { $ref: '#/components/schemas/Track' } } },
    });
    expect(operations.find((o) => o.operationId === 'takeStep')!.responses).toMatchObject({
      200: {
        content: { 'application/json': { schema: { $ref: '#/components/schemas/StepResult' } } },
      },
      409: { content: {} },
    });
  });

  it('has every component it refers to', () => {
    const named = [
      ...JSON.stringify(document).matchAll(/"\$ref":"#\/components\/schemas\/(\w+)"/g),
    ].map((m) => m[1]!);
    expect(named.length).toBeGreaterThan(40);
    expect([...new Set(named)].filter((name) => !(name in document.components.schemas))).toEqual(
      [],
    );
  });
});

describe('an answer that is held against it', () => {
  const health = (body: object, status = 200): string[] =>
    notAsDescribed('GET', '/api/health', status, 'application/json', JSON.stringify(body));

  it('is as described, or says where it is not', () => {
    expect(health({ ok: true })).toEqual([]);
    expect(health({ ok: 1 })[0]).toMatch(/^\/ok /);
    expect(health({ ok: true, more: 1 })[0]).toMatch(/additional properties/);
    expect(health({ ok: true }, 201)).toEqual(['status 201 is not described']);
    expect(notAsDescribed('GET', '/api/songs/x/original', 200, 'text/html', '')[0]).toMatch(
      /^media type text\/html/,
    );
    expect(notAsDescribed('DELETE', '/api/recipes/x', 204, '', '')).toEqual([]);
  });
});

describe('addresses', () => {
  it('say what is sent in path and query, so that nothing in it is taken for more', () => {
    expect(urlOf('getHandoffFile', { id: 'a', name: 'b/c d?.mid' })).toBe(
      '/api/handoffs/a/files/b%2Fc%20d%3F.mid',
    );
    expect(urlOf('listSongs', {}, { search: '100% & more', from: 0, sort: undefined })).toBe(
      '/api/songs?search=100%25%20%26%20more&from=0',
    );
  });
});

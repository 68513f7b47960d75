import SwaggerParser from '@apidevtools/swagger-parser';
import { Validator } from '@seriousme/openapi-schema-validator';
import { describe, expect, it } from 'vitest';
import type { Call } from '../../contracts/call';
import { CALLS } from '../../contracts/calls';
import { openApi } from './openapi';

const described = () => JSON.parse(JSON.stringify(openApi()));

describe('the description of the interface', () => {
  it('is OpenAPI 3.1 to a validator by the schema of the standard', async () => {
    const { valid, errors } = await new Validator().validate(described());
    expect(errors).toBeUndefined();
    expect(valid).toBe(true);
  });

  it('is valid to another one, which also follows every reference', async () => {
    const api = await SwaggerParser.validate(described());
    expect(Object.keys(api.paths ?? {}).length).toBeGreaterThan(100);
  });

  it('names what each call answers, and what is sent with each that changes something by more than its address', () => {
    const calls = Object.entries(CALLS) as [string, Call][];
    expect(calls.length).toBeGreaterThan(140);
    const silent = calls.filter(([, call]) => !call.answer && !call.media && call.status !== 204);
    expect(silent.map(([path]) => path)).toEqual([]);
    const withoutBody = calls.filter(
      ([path, call]) => path.startsWith('PATCH') && !call.body && !call.file && !call.form,
    );
    expect(withoutBody).toEqual([]);
  });

  it('has schemas of many calls once, by name', () => {
    const { components, paths } = described();
    expect(Object.keys(components.schemas)).toEqual(expect.arrayContaining(['Job', 'Source', 'Domain', 'Group']));
    expect(JSON.stringify(paths['/sources/lists'].post.responses['202'])).toContain('"#/components/schemas/Source"');
  });
});

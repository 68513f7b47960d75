import { z } from 'zod';
import { type Call, neededFor } from '../../contracts/call';
import { CALLS } from '../../contracts/calls';
import { ProblemSchema } from '../../contracts/system';
import type { NeededScope } from '../../core/settings/token-scopes';

type JsonSchema = Record<string, unknown>;

/** Schemas that have a name stand once, beside the calls. */
class Components {
  readonly schemas: Record<string, JsonSchema> = {};

  of(schema: z.ZodType, io: 'input' | 'output'): JsonSchema {
    const {
      $defs = {},
      $schema: _,
      ...whole
    } = z.toJSONSchema(schema, { io, unrepresentable: 'any' }) as JsonSchema & {
      $defs?: Record<string, JsonSchema>;
    };
    for (const [name, { id: _id, ...named }] of Object.entries($defs)) this.schemas[name] ??= pointed(named);
    return pointed(whole);
  }
}

const pointed = (schema: JsonSchema): JsonSchema =>
  JSON.parse(JSON.stringify(schema).replaceAll('"#/$defs/', '"#/components/schemas/'));

const isList = (field: z.ZodType) => field instanceof z.ZodArray;

const text = { schema: { type: 'string' } };

/** The interface as OpenAPI 3.1, made from the contracts that check what is sent and what is answered. */
export function openApi(): Record<string, unknown> {
  const components = new Components();
  const paths: Record<string, Record<string, object>> = {};
  for (const [name, call] of Object.entries(CALLS)) {
    const [method, path] = name.split(' ');
    paths[path] ??= {};
    paths[path][method.toLowerCase()] = operationOf(name, call, components);
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Jam Ladle', version: '1', description: 'All that the screens do can be scripted.' },
    servers: [{ url: '/api/v1' }],
    paths,
    components: { schemas: components.schemas },
  };
}

/** @param name of the call, by its method and path. */
function operationOf(name: string, call: Call, components: Components): object {
  const inPath = [...name.matchAll(/\{(\w+)\}/g)].map(([, part]) => ({
    name: part,
    in: 'path',
    required: true,
    ...text,
  }));
  const inQuery = Object.entries(call.query ?? {}).map(([parameter, field]) => {
    const { description, ...schema } = components.of(field, 'input');
    return {
      name: parameter,
      in: 'query',
      description,
      required: !field.safeParse(undefined).success && !isList(field),
      schema,
    };
  });
  const content: Record<string, object> = {};
  if (call.body) content['application/json'] = { schema: components.of(call.body, 'input') };
  if (call.file) {
    content['application/octet-stream'] = { schema: { type: 'string', format: 'binary' } };
    content['multipart/form-data'] = {
      schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } },
    };
  }
  if (call.form) content['multipart/form-data'] = { schema: components.of(call.form, 'input') };
  return {
    summary: call.summary,
    ...(call.access !== 'open' && {
      description: `Asks for the key of the data folder${tokenWords(neededFor(name, call))}.`,
    }),
    parameters: [...inPath, ...inQuery],
    ...(Object.keys(content).length > 0 ? { requestBody: { content } } : {}),
    responses: {
      [call.status ?? 200]: { description: call.summary, ...answerOf(call, components) },
      default: {
        description: 'What was wrong (RFC 9457)',
        content: { 'application/problem+json': { schema: components.of(ProblemSchema, 'output') } },
      },
    },
  };
}

const tokenWords = (needed: NeededScope): string =>
  needed === 'owner' ? '; no token lets do it' : `, or for a token that lets ${needed}`;

function answerOf({ answer, media = [] }: Call, components: Components): object {
  const content: Record<string, object> = Object.fromEntries(media.map((type) => [type, text]));
  if (answer) content['application/json'] = { schema: components.of(answer, 'output') };
  return Object.keys(content).length > 0 ? { content } : {};
}

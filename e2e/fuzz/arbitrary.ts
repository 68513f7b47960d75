import fc, { type Arbitrary } from 'fast-check';

/** As far as descriptions of the interface use it (JSON Schema 2020-12). */
export interface JsonSchema {
  $ref?: string;
  type?: string | string[];
  enum?: unknown[];
  const?: unknown;
  anyOf?: JsonSchema[];
  oneOf?: JsonSchema[];
  allOf?: JsonSchema[];
  properties?: Record<string, JsonSchema>;
  required?: string[];
  items?: JsonSchema;
  prefixItems?: JsonSchema[];
  additionalProperties?: JsonSchema | boolean;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  minLength?: number;
  maxLength?: number;
  pattern?: string;
}

export type Schemas = Record<string, JsonSchema>;

/** How deep lists and objects stand in each other at most. */
const DEEPEST = 5;
/** Texts that find what is forgotten. */
const ODD = [
  '', ' ', '0', '-1', '1e400', 'NaN', 'null', '__proto__', 'constructor', 'toString', '../../etc/passwd', '%00', '\u0000', 'a'.repeat(5000),
  "'; DROP TABLE domains; --", '"<script>alert(1)</script>', '=1+1', '\u202edrow', '𝔘𝔫𝔦', 'xn--', 'xn--a', '.', '..', 'a..b', '[', '(?<', '/(a+)+$/', '2026-13-45', '١٢٣',
]; // biome-ignore format: a list
export const odd: Arbitrary<string> = fc.oneof(fc.constantFrom(...ODD), fc.string({ unit: 'binary', maxLength: 40 }));
/** Names of the demo's kind, which nobody else is asked about. */
const name = fc.constantFrom(
  'ossenmerebeeclub.org',
  'merrowvalegazette.com',
  'tarnhives.org',
  'not a name',
  'hive.co.uk',
);
const anything: Arbitrary<unknown> = fc.oneof(fc.jsonValue({ maxDepth: 2 }) as Arbitrary<unknown>, odd);

/** Values that a schema allows, and now and then one that it does not. */
export function valuesOf(schema: JsonSchema, schemas: Schemas, depth = 0): Arbitrary<unknown> {
  if (depth > DEEPEST) return fc.constant(null);
  return fc.oneof({ weight: 12, arbitrary: right(schema, schemas, depth) }, { weight: 1, arbitrary: anything });
}

function right(schema: JsonSchema, schemas: Schemas, depth: number): Arbitrary<unknown> {
  const at = (one: JsonSchema) => valuesOf(one, schemas, depth + 1);
  if (schema.$ref) return valuesOf(schemas[schema.$ref.split('/').at(-1) ?? ''] ?? {}, schemas, depth + 1);
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices) return fc.oneof(...choices.map(at));
  if (schema.allOf)
    return fc
      .tuple(...schema.allOf.map(at))
      .map((parts) => Object.assign({}, ...parts.filter((part) => typeof part === 'object')));
  const kinds = Array.isArray(schema.type) ? schema.type : [schema.type ?? (schema.properties ? 'object' : 'any')];
  return fc.oneof(...kinds.map((kind) => ofKind(kind, schema, schemas, depth)));
}

function ofKind(kind: string, schema: JsonSchema, schemas: Schemas, depth: number): Arbitrary<unknown> {
  const at = (one: JsonSchema) => valuesOf(one, schemas, depth + 1);
  switch (kind) {
    case 'null':
      return fc.constant(null);
    case 'boolean':
      return fc.boolean();
    case 'integer':
    case 'number':
      return numbersOf(schema, kind === 'integer');
    case 'string':
      return fc.oneof(
        { weight: 3, arbitrary: textsOf(schema) },
        { weight: 2, arbitrary: name },
        { weight: 1, arbitrary: odd },
      );
    case 'array':
      return schema.prefixItems
        ? fc.tuple(...schema.prefixItems.map(at))
        : fc.array(at(schema.items ?? {}), { maxLength: 4 });
    case 'object':
      return objectsOf(schema, at);
    default:
      return anything;
  }
}

function numbersOf(schema: JsonSchema, isWhole: boolean): Arbitrary<number> {
  const least = schema.minimum ?? schema.exclusiveMinimum ?? -1000;
  const most = Math.max(least, schema.maximum ?? 2 ** 40);
  const small = fc.integer({
    min: Math.ceil(least),
    max: Math.max(Math.ceil(least), Math.min(most, Math.ceil(least) + 30)),
  });
  if (isWhole) return fc.oneof(small, fc.constantFrom(least, most, 0, -1, 2 ** 53));
  return fc.oneof(small, fc.double({ min: least, max: most, noNaN: true }));
}

function textsOf({ pattern, minLength = 0, maxLength = 60 }: JsonSchema): Arbitrary<string> {
  if (pattern)
    try {
      return fc.stringMatching(new RegExp(pattern, 'u'));
    } catch {
      // with parts that it cannot make texts of
    }
  return fc.string({
    unit: 'grapheme',
    minLength: Math.min(minLength, 60),
    maxLength: Math.max(minLength, Math.min(maxLength, 60)),
  });
}

function objectsOf(
  { properties = {}, required = [], additionalProperties }: JsonSchema,
  at: (one: JsonSchema) => Arbitrary<unknown>,
) {
  const fields = Object.fromEntries(Object.entries(properties).map(([field, schema]) => [field, at(schema)]));
  const known = fc.record(fields, { requiredKeys: required.filter((field) => field in fields) });
  if (typeof additionalProperties !== 'object' || Object.keys(fields).length > 0) return known;
  return fc.dictionary(fc.oneof(name, fc.string({ maxLength: 10 })), at(additionalProperties), { maxKeys: 3 });
}

import { unlike } from '../../core/text/words.ts';
import { targetConstructorToSchema } from 'class-validator-jsonschema';
import { ROLES } from '../../core/actions/action.ts';
import { ACTIONS, actionOf, type ActionKind } from '../../core/actions/actions.ts';
import { Choice, nestedOf, type DocumentClass, type Nested, type Of } from '../../core/document/check.ts';

type Schema = Record<string, unknown>;
type Meta = { constraints: unknown[]; name?: string; type: string };

const bounded = (low: string, high: string, type: string) => (meta: Meta) => {
  const [min, max] = meta.constraints as [number, number];
  return {
    type,
    ...(Number.isFinite(min) ? { [low]: min } : {}),
    ...(Number.isFinite(max) ? { [high]: max } : {}),
  };
};

/** What each check of ours says of a property, in the words of JSON Schema; what is left out says nothing there. */
const CONVERTERS: Record<string, (meta: Meta) => Schema> = {
  is: ({ constraints: [only] }) => ({ const: only }),
  oneOf: ({ constraints }) => ({ enum: constraints }),
  text: bounded('minLength', 'maxLength', 'string'),
  form: ({ constraints: [pattern] }) => ({ type: 'string', pattern }),
  num: bounded('minimum', 'maximum', 'number'),
  whole: bounded('minimum', 'maximum', 'integer'),
  count: bounded('minItems', 'maxItems', 'array'),
  yesNo: () => ({ type: 'boolean' }),
  key: () => ({ type: 'string', maxLength: 80 }),
  name: () => ({ type: 'string', minLength: 1, maxLength: 80 }),
  object: () => ({ type: 'object' }),
  inputs: () => ({
    type: 'object',
    additionalProperties: { type: ['string', 'number', 'boolean', 'null'] },
  }),
};

/** The schemas of classes, each under a name of its own, with those that they hold. */
class Schemas {
  readonly made: Record<string, Schema> = {};
  private readonly names = new Map<DocumentClass, string>();

  refer(of: Of): Schema {
    if (of instanceof Choice) return { type: 'object' };
    const known = this.names.get(of);
    if (known) return { $ref: `#/components/schemas/${known}` };
    const name = unlike(
      of.name,
      (free) => free in this.made,
      (n) => `${of.name}${n}`,
    );
    this.names.set(of, name);
    this.made[name] = {};
    const schema = targetConstructorToSchema(of, {
      additionalConverters: CONVERTERS as never,
      skipMissingProperties: false,
    }) as Schema;
    const properties = { ...(schema['properties'] as Record<string, Schema>) };
    for (const [property, nested] of nestedOf(of))
      properties[property] = { ...properties[property], ...this.nested(nested) };
    this.made[name] = { ...schema, properties };
    return { $ref: `#/components/schemas/${name}` };
  }

  private nested({ of, many }: Nested): Schema {
    const one = this.refer(of());
    if (many === 'list') return { type: 'array', items: one };
    return many === 'record' ? { type: 'object', additionalProperties: one } : one;
  }
}

const answer = (description: string, properties: Record<string, Schema>) => ({
  description,
  content: { 'application/json': { schema: { type: 'object', properties } } },
});
const TEXT = { type: 'string' };

/** Every action that can be asked for, as an OpenAPI 3.1 document (spec.openapis.org/oas/v3.1). */
export function openApi(): object {
  const schemas = new Schemas();
  const kinds = Object.keys(ACTIONS) as ActionKind[];
  const asked = kinds.map((kind) => ({ kind, ref: schemas.refer(actionOf(kind).request) }));
  return {
    openapi: '3.1.0',
    info: { title: 'Foothill', version: '1' },
    paths: {
      '/api/actions': {
        post: {
          summary: 'Does one action. It is answered once it is in the database.',
          description: Object.entries(ROLES)
            .map(([role, what]) => `${role}: ${what}`)
            .join('\n'),
          requestBody: {
            required: true,
            content: {
              'application/json': {
                schema: {
                  oneOf: asked.map((a) => a.ref),
                  discriminator: {
                    propertyName: 'kind',
                    mapping: Object.fromEntries(asked.map((a) => [a.kind, a.ref['$ref']])),
                  },
                },
              },
            },
          },
          responses: {
            200: answer('Done; `text` says what, `seq` is the number of the desks’ stream that has it.', {
              ok: { const: true },
              text: TEXT,
              seq: { type: 'integer' },
            }),
            400: answer('It is not asked as it must be.', { ok: { const: false }, reason: TEXT }),
            409: answer('It cannot be done as things stand; `clash`: somebody else changed the same.', {
              ok: { const: false },
              reason: TEXT,
              clash: { type: 'boolean' },
            }),
            503: answer('The database does not answer; nothing was changed.', {
              ok: { const: false },
              reason: TEXT,
            }),
          },
          'x-roles': Object.fromEntries(kinds.map((kind) => [kind, actionOf(kind).role])),
        },
      },
    },
    components: { schemas: schemas.made },
  };
}

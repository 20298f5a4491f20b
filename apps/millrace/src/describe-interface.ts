import type { Column, KindName } from './data/kinds.ts';
import { KINDS } from './data/kinds.ts';
import type { ApplicationName } from './kit/screen.ts';
import { toSlug } from './screens/all-screens.ts';

/** Every value travels as text, as it stands in the suite's own records. */
const TYPES: Readonly<Record<Column, object>> = {
  text: { type: 'string' },
  money: { type: 'string', pattern: '^-?\\d+\\.\\d{2}$|^$' },
  number: { type: 'string', pattern: '^-?\\d+(\\.\\d+)?$|^$' },
  day: { type: 'string', anyOf: [{ format: 'date' }, { maxLength: 0 }] },
};

/** The interface of one application as OpenAPI 3.1, made from the kinds of records. */
export function describeInterface(environment: string, application: ApplicationName, kinds: readonly KindName[]) {
  const schemas = Object.fromEntries(
    kinds.map((kind) => {
      const columns = Object.entries(KINDS[kind].columns as Readonly<Record<string, Column>>);
      const properties = { number: { type: 'string' }, ...Object.fromEntries(columns.map(([name, type]) => [name, TYPES[type]])) };
      return [kind, { type: 'object', properties, required: Object.keys(properties) }];
    }),
  );
  const paths = Object.fromEntries(
    kinds.flatMap((kind) => {
      const { table, columns } = KINDS[kind];
      const filters = Object.keys(columns).map((name) => ({ name, in: 'query', schema: { type: 'string' } }));
      const number = { name: 'number', in: 'path', required: true, schema: { type: 'string' } };
      const one = toAnswer(`One of the ${table}`, { $ref: `#/components/schemas/${kind}` });
      return [
        [
          `/${table}`,
          {
            get: {
              parameters: filters,
              responses: toAnswer(`The newest ${table}`, { type: 'array', items: { $ref: `#/components/schemas/${kind}` } }),
            },
          },
        ],
        [`/${table}/{number}`, { get: { parameters: [number], responses: { ...one, '404': { description: 'There is none' } } } }],
      ];
    }),
  );
  return {
    ...{ openapi: '3.1.0', info: { title: `Millrace ${application}`, version: '1' }, paths },
    servers: [{ url: `/${environment}/${toSlug(application)}/api` }],
    components: { schemas, securitySchemes: { token: { type: 'http', scheme: 'bearer' } } },
    security: [{ token: [] }],
  };
}

const toAnswer = (description: string, schema: object) => ({ '200': { description, content: { 'application/json': { schema } } } });

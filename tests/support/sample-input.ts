import { z } from 'zod';

interface Schema {
  readonly type?: string;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly items?: Schema;
  readonly format?: string;
  readonly minimum?: number;
  readonly $ref?: string;
  readonly $defs?: Readonly<Record<string, Schema>>;
}

/** A value that a route's schema takes, with everything in it that may be there; texts and ids by the name of their field. */
export function sampleInput(schema: z.ZodType, textOf: (name: string, isId: boolean) => string): unknown {
  const root = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Schema;
  const sample = (part: Schema, name: string, depth: number): unknown => {
    if (part.$ref) return sample(root.$defs?.[part.$ref.split('/').at(-1) ?? ''] ?? {}, name, depth);
    if (part.const !== undefined) return part.const;
    if (part.enum) return part.enum[0];
    const [first] = part.anyOf ?? part.oneOf ?? part.allOf ?? [];
    if (first) return sample(first, name, depth);
    if (part.type === 'object')
      return Object.fromEntries(
        depth > 6 ? [] : Object.entries(part.properties ?? {}).map(([field, inner]) => [field, sample(inner, field, depth + 1)]),
      );
    if (part.type === 'array') return part.items && depth <= 6 ? [sample(part.items, name, depth + 1)] : [];
    if (part.type === 'integer' || part.type === 'number') return Math.max(1, part.minimum ?? 1);
    if (part.type === 'boolean') return false;
    if (part.type === 'null') return null;
    if (part.format === 'date-time') return '2026-11-02T09:00:00.000Z';
    return textOf(name, part.format === 'uuid');
  };
  return sample(root, '', 0);
}

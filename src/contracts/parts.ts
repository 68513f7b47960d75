import { z } from 'zod';
import { registrableDomain } from '../core/names/domain';

export const Endings = z
  .array(
    z
      .string()
      .trim()
      .toLowerCase()
      .regex(/^\.?[a-z0-9.-]{2,60}$/, 'an ending is written like org or co.uk'),
  )
  .max(2000)
  .transform((endings) => [...new Set(endings.map((ending) => ending.replace(/^\./, '')))]);

export const Upload = z.string().regex(/^[a-f0-9-]{36}$/, 'an upload is named by what its preview answered');

export const Sites = z
  .array(z.string().max(2000))
  .max(5000)
  .transform((sites, context) =>
    sites.flatMap((site) => {
      const domain = registrableDomain(site);
      if (!domain) context.addIssue({ code: 'custom', message: `"${site.slice(0, 80)}" is no registrable domain` });
      return domain?.name ?? [];
    }),
  );

/** Money in whole minor units. */
export const Minor = z.number().int().min(0).max(1e12);

export const MostMinor = z.number().int().min(1).max(1e12);

type ChangeOf<Shape extends z.ZodRawShape> = {
  [Key in keyof Shape]: z.ZodOptional<Shape[Key] extends z.ZodDefault<infer Inner> ? Inner : Shape[Key]>;
};

/** Changes of some fields: what is left out stays as it is, no default fills it. */
export function changeOf<Shape extends z.ZodRawShape>(whole: z.ZodObject<Shape>): z.ZodObject<ChangeOf<Shape>> {
  const fields = Object.entries(whole.shape).map(([key, field]) => [
    key,
    z.optional(field instanceof z.ZodDefault ? field.unwrap() : field),
  ]);
  // keys and fields are those of the shape
  return z.object(Object.fromEntries(fields) as ChangeOf<Shape>);
}

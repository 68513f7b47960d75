import { z } from 'zod';
import { TriedSchema } from '../setup/tried';
import { ANSWER_FIELDS, ANSWER_FORMATS, Description, FieldPlace, isOfOrders } from './connection';

/** What came when a connection was tried, and how it stands for that. */
export const ConnectionTriedSchema = TriedSchema.omit({ ability: true });
export type ConnectionTried = z.infer<typeof ConnectionTriedSchema>;

/** The last try of each connection that was tried, by id. */
export const ConnectionTriesSchema = z.record(z.string(), ConnectionTriedSchema);
export type ConnectionTries = z.infer<typeof ConnectionTriesSchema>;

/** An answer as it is laid out to be picked from. */
export const LaidOutSchema = z.object({
  /** How it is most likely written. */
  format: z.enum(ANSWER_FORMATS),
  /** Texts with the parts of their JSON Pointers, in order; of HTML none. */
  leaves: z.array(z.object({ parts: z.array(z.string()), text: z.string() })),
  /** Whether there is more than is laid out. */
  isCut: z.boolean(),
  /** Lists that entries may be. */
  series: z.array(z.object({ at: z.string(), count: z.number() })),
  /** Of HTML: elements that come again and again. */
  repeated: z.array(
    z.object({
      selector: z.string(),
      count: z.number(),
      samples: z.array(z.string()),
      parts: z.array(z.object({ at: z.string(), text: z.string() })),
    }),
  ),
  /** What it most likely means. */
  proposed: z.object({ entries: z.string(), fields: z.partialRecord(z.enum(ANSWER_FIELDS), FieldPlace) }).nullable(),
  /** The first entries as they are read now. */
  columns: z.array(z.enum(ANSWER_FIELDS)),
  rows: z.array(z.array(z.string())),
  /** How many entries there are. */
  count: z.number(),
});
export type LaidOut = z.infer<typeof LaidOutSchema>;

/** What makes a connection another one than the one that was tried, as text without secrets. */
export function describedBy(description: Description): string {
  const { venue, kinds, ...rest } = Description.parse(description);
  return JSON.stringify(isOfOrders(rest.use) ? { ...rest, venue, kinds } : rest);
}

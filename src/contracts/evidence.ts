import { z } from 'zod';
import type { EvidenceRow, TableColumn } from '../core/evidence/arrange';

export const TableColumnSchema = z.object({
  key: z.string(),
  title: z.string(),
  type: z.enum(['number', 'text', 'time']),
}) satisfies z.ZodType<TableColumn>;

export const EvidenceRowSchema = z.object({
  cells: z.array(z.union([z.string(), z.number()]).nullable()),
  note: z.string().optional(),
  href: z.string().optional(),
}) satisfies z.ZodType<EvidenceRow>;

import type { Step } from './checklist';
import type { SiteOutline } from './outline';
import type { CarryingSubject, PagePlan } from './plan';

export interface RebuildText {
  name: string;
  /** ms since 1970 UTC. */
  at: number;
  plan: PagePlan;
  subjects: readonly (CarryingSubject & { title: string })[];
  outline: SiteOutline | null;
  steps: readonly Step[];
}

/** The plan of a rebuild as Markdown (CommonMark, with the task lists and tables of GitHub Flavored Markdown). */
export function rebuildMarkdown({ name, at, plan, subjects, outline, steps }: RebuildText): string {
  const day = (ms: number) => new Date(ms).toISOString().slice(0, 10);
  const percent = (share: number) => `${Math.round(100 * share)}%`;
  const lines = [`# Bringing ${escaped(name)} back`, '', `As of ${day(at)}.`, '', '## To do', ''];
  for (const { state, words } of steps)
    if (state !== 'left') lines.push(`- [${state === 'done' ? 'x' : ' '}] ${escaped(words)}`);
  if (subjects.length > 0) {
    lines.push('', '## What it was linked for', '');
    for (const { title, share, paths } of subjects)
      lines.push(
        `- ${escaped(title)}: ${percent(share)} of what its referring domains count, on ${paths.slice(0, 5).map(code).join(', ')}`,
      );
  }
  lines.push('', '## Pages', '');
  if (plan.pages.length === 0) lines.push('No old page is known.');
  else {
    lines.push(
      '| page | part | referring domains | visits a month | readers | back |',
      '| --- | --- | --- | --- | --- | --- |',
    );
    const back = new Set(steps.flatMap(({ key, state }) => (state === 'left' ? [] : [key])));
    for (const { path, share, domains, visits, readers } of plan.pages)
      lines.push(
        `| ${code(path)} | ${percent(share)} | ${domains} | ${Math.round(visits)} | ${readers} | ${back.has(`page:${path}`) ? 'yes' : 'no'} |`,
      );
  }
  if (outline) {
    lines.push('', `## What it was, ${day(outline.at)}`, '', `“${escaped(outline.title)}”`, '');
    if (outline.parts.length > 0) lines.push(`Its parts: ${outline.parts.map(escaped).join(' · ')}`, '');
    for (const { level, text, words } of outline.headings)
      lines.push(`${'  '.repeat(Math.max(0, level - 1))}- ${escaped(text)}${words > 0 ? ` (${words} words)` : ''}`);
  }
  return `${lines.join('\n').trimEnd()}\n`;
}

/** Text from outside is text: what Markdown or HTML would read as a sign is escaped, and it stays on its line. */
const escaped = (text: string) => text.replace(/\s+/g, ' ').replace(/[\\`*_{}[\]<>#|~&]/g, '\\$&');

/** An address as code; a backtick inside it would end it, a bar would end the cell. */
const code = (path: string) => `\`${path.replace(/`/g, '%60').replace(/\|/g, '%7C').replace(/\s+/g, ' ')}\``;

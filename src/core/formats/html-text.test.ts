import fc from 'fast-check';
import { parseDocument } from 'htmlparser2';
import { describe, expect, it } from 'vitest';
import { Html, html } from './html-text';

describe('markup from a template', () => {
  it('escapes what is put in, and keeps markup that was made the same way', () => {
    const rows = ['a<b', 'c"d'].map((text) => html`<li title="${text}">${text}</li>`);
    expect(html`<ul>${rows}</ul>${null}${undefined}${3}`.text).toBe(
      '<ul><li title="a&lt;b">a&lt;b</li><li title="c&quot;d">c&quot;d</li></ul>3',
    );
    expect(html`${new Html('<b>')}`.text).toBe('<b>');
  });

  it('never lets a text become a tag or leave its attribute', () => {
    const nasty = fc.oneof(
      fc.string(),
      fc.constantFrom('</p><script>', '" onload="x', "' x='", '<!--', ']]>', '&lt;', '&#60;script>'),
    );
    fc.assert(
      fc.property(nasty, (text) => {
        const document = parseDocument(html`<p title="${text}">${text}</p>`.text);
        expect(document.children.length).toBe(1);
        const [p] = document.children as unknown as [
          { attribs: Record<string, string>; children: { type: string; data: string }[] },
        ];
        expect(p.attribs).toEqual({ title: text });
        expect(p.children.map(({ data }) => data).join('')).toBe(text);
        expect(p.children.every(({ type }) => type === 'text')).toBe(true);
      }),
    );
  });
});

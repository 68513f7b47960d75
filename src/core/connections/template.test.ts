import { describe, expect, it } from 'vitest';
import { domainFilling, filled, masked, placeholdersIn, secretsOf, unknownPlaceholder } from './template';

describe('placeholders', () => {
  it('are escaped as the place wants it that they stand in', () => {
    const words = { words: 'honey & "wax" <a/>\nb' };
    expect(filled('http://a.test/?q={words}', words, 'address')).toBe(
      'http://a.test/?q=honey%20%26%20%22wax%22%20%3Ca%2F%3E%0Ab',
    );
    expect(JSON.parse(filled('{"q": "{words}"}', words, 'json'))).toEqual({ q: words.words });
    expect(filled('q={words}', words, 'form')).toBe('q=honey%20%26%20%22wax%22%20%3Ca%2F%3E%0Ab');
    expect(filled('<q>{words}</q>', { words: 'a<b & c' }, 'xml')).toBe('<q>a&#60;b &#38; c</q>');
  });

  it('begin no header of their own in a header', () => {
    expect(filled('{words}', { words: 'a\r\nX-Other: b' }, 'header')).toBe('a X-Other: b');
  });

  it('vanish without a value, and leave other braces alone', () => {
    expect(filled('http://a.test/?after={cursor}&x={1}', {}, 'address')).toBe('http://a.test/?after=&x={1}');
    expect(filled('{"filter": {"domain": "{domain}"}}', { domain: 'tarnhives.org' }, 'json')).toBe(
      '{"filter": {"domain": "tarnhives.org"}}',
    );
    expect([...placeholdersIn('{domain} {nobody} {key}')]).toEqual(['domain', 'key']);
    expect(unknownPlaceholder('{domain} {keyword}')).toBe('keyword');
  });

  it('a domain gives its name and its TLD, which may have two parts', () => {
    expect(domainFilling('ashcott.co.uk')).toEqual({
      domain: 'ashcott.co.uk',
      name: 'ashcott',
      tld: 'co.uk',
      words: 'ashcott',
    });
  });
});

describe('secrets', () => {
  it('are not shown in any form that they are sent in', () => {
    const secrets = secretsOf({ key: 'k/1 "x"', user: 'mara', password: 'p&w' });
    const sent = [
      filled('?k={key}', { key: 'k/1 "x"' }, 'address'),
      filled('{"k":"{key}"}', { key: 'k/1 "x"' }, 'json'),
      filled('<k>{password}</k>', { password: 'p&w' }, 'xml'),
      `Basic ${Buffer.from('mara:p&w').toString('base64')}`,
      'plainly k/1 "x" and p&w',
    ];
    const shown = masked(sent.join('\n'), secrets);
    expect(shown).toBe('?k=…\n{"k":"…"}\n<k>…</k>\nBasic …\nplainly … and …');
  });

  it('an empty one hides nothing', () => {
    expect(masked('all of it', secretsOf({ key: '', user: '', password: '' }))).toBe('all of it');
  });
});

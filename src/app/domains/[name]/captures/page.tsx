import type { Metadata } from 'next';
import { languageName } from '../../../../core/history/language-name';
import type { PageBlock } from '../../../../core/history/outline';
import { type BlockPair, comparePages, type WordChange } from '../../../../core/history/page-changes';
import { displayName, registrableDomain } from '../../../../core/names/domain';
import { subjectTitle } from '../../../../core/topics/subjects';
import { day } from '../../../../core/wording/format';
import type { Store } from '../../../../store/base/database';
import { findDomain } from '../../../../store/domains/domains';
import { capturePage, capturesOf, type StoredCapture } from '../../../../store/links/captures';
import { MeasureNow } from '../../../../ui/dossier/measure-now';
import { PickCapture } from '../../../../ui/dossier/pick-capture';
import Link from '../../../../ui/link';
import { parametersOf, type SearchParams } from '../../../search-params';
import { getStore } from '../../../server';

type Props = { params: Promise<{ name: string }>; searchParams: SearchParams };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Captures of ${displayName(decodeURIComponent((await params).name)).slice(0, 60)}` };
}

interface Shown {
  capture: StoredCapture;
  blocks: PageBlock[] | null;
}

/** One capture as text and structure, or two of them side by side with what changed. */
export default async function CapturesPage({ params, searchParams }: Props) {
  const store = await getStore();
  const domain = registrableDomain(decodeURIComponent((await params).name));
  const row = domain && findDomain(store, domain.name);
  const captures = row ? capturesOf(store, row.id) : [];
  if (!row || captures.length === 0)
    return (
      <div className="mx-auto max-w-2xl px-6 py-10">
        <h1 className="break-all">{domain?.name ?? 'No domain'}</h1>
        <p className="mt-2">
          None of its captures is read.{' '}
          {row && (
            <MeasureNow name={row.name} id={row.id} what="measure">
              Read them now
            </MeasureNow>
          )}
        </p>
      </div>
    );
  const asked = await parametersOf(searchParams);
  const first = shown(store, row.id, captures, asked.get('a')) ?? {
    capture: captures[0],
    blocks: capturePage(store, row.id, captures[0].at),
  };
  const second = shown(store, row.id, captures, asked.get('b'));
  const choices = captures.map(({ at, kind, title }) => ({ at, words: `${day(at, 0)}: ${title || kind}` }));
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-5 min-[1700px]:max-w-[1600px]">
      <p className="small">
        <Link href={`/domains/${row.name}#past`} className="underline">
          Dossier of {displayName(row.name)}
        </Link>
      </p>
      <h1 className="mt-1 break-all">{second ? 'Two captures side by side' : 'A capture'}</h1>
      <p className="small mt-1">
        The page's text and structure as the archive kept them; no markup, picture or script of it is shown.
      </p>
      <div
        className={`mt-3 grid gap-x-10 ${second ? 'grid-cols-1 lg:grid-cols-2' : 'grid-cols-1 lg:grid-cols-[minmax(0,1fr)_320px]'}`}
      >
        <Head shown={first}>
          <PickCapture label="First capture" name="a" choices={choices} value={first.capture.at} />
        </Head>
        {second ? (
          <Head shown={second}>
            <PickCapture label="Second capture" name="b" choices={choices} value={second.capture.at} isOptional />
          </Head>
        ) : (
          <div>
            <PickCapture label="Beside it" name="b" choices={choices} value={null} isOptional />
            <Words capture={first.capture} />
          </div>
        )}
      </div>
      {second ? (
        <SideBySide first={first} second={second} />
      ) : (
        <Sketch blocks={first.blocks} id={row.id} name={row.name} />
      )}
    </div>
  );
}

function shown(store: Store, id: number, captures: StoredCapture[], at: string | null): Shown | null {
  const capture = captures.find((one) => String(one.at) === at);
  return capture ? { capture, blocks: capturePage(store, id, capture.at) } : null;
}

function Head({ shown: { capture }, children }: { shown: Shown; children: React.ReactNode }) {
  return (
    <div className="min-w-0">
      {children}
      <p className="mt-1.5">
        <strong>{day(capture.at, 0)}</strong>, {capture.kind.replace('-', ' ')}, answered {capture.status}
        {capture.language && `, in ${languageName(capture.language)}`}
        {capture.subject && `, about ${subjectTitle(capture.subject).toLowerCase()}`}
        {capture.redirectTo && `, leads to ${capture.redirectTo}`}
      </p>
      <p className="small truncate" title={capture.url}>
        <bdi>{capture.title || 'no title'}</bdi>
      </p>
    </div>
  );
}

function Words({ capture }: { capture: StoredCapture }) {
  return (
    <div className="mt-4">
      <h2>What decided</h2>
      <p className="small">{capture.marks.join('; ') || 'nothing that shows'}</p>
      <h2 className="mt-3">Its words</h2>
      <p className="small">
        <bdi>
          {[...capture.terms]
            .slice(0, 30)
            .map(([word, times]) => `${word} (${times})`)
            .join(', ') || 'none'}
        </bdi>
      </p>
      <h2 className="mt-3">Where it led</h2>
      <p className="small">{capture.links.join(', ') || 'to no other domain'}</p>
    </div>
  );
}

const NOT_KEPT = 'It was read before pages were kept.';

function Sketch({ blocks, id, name }: { blocks: PageBlock[] | null; id: number; name: string }) {
  if (blocks === null)
    return (
      <p className="mt-4">
        {NOT_KEPT}{' '}
        <MeasureNow name={name} id={id} what="measure">
          Read it again
        </MeasureNow>
      </p>
    );
  return (
    <article className="mt-4 max-w-[820px] border-t border-ink pt-3" aria-label="What it shows">
      {blocks.length === 0 && <p>The page is empty.</p>}
      {blocks.map((block, n) => (
        <Block key={n} block={block} />
      ))}
    </article>
  );
}

/** A piece of a page, told by place and a word in the margin, never by its own markup. */
function Block({ block, words }: { block: PageBlock; words?: React.ReactNode }) {
  const { kind, level } = block;
  const text = words ?? block.text;
  const looks: Record<PageBlock['kind'], string> = {
    heading: level <= 2 ? 'text-title font-serif font-semibold' : 'font-semibold',
    text: '',
    item: '',
    cell: 'border border-rule px-1.5 w-fit',
    link: 'underline decoration-rule',
    image: 'border border-dashed border-muted px-2 py-1 w-fit text-muted',
    form: 'border border-muted px-2 py-1 w-fit text-muted',
    frame: 'border border-dashed border-muted px-2 py-1 w-fit text-muted',
  };
  const names: Partial<Record<PageBlock['kind'], string>> = {
    heading: `heading ${level}`,
    image: 'picture',
    form: 'form',
    frame: 'frame',
    item: 'item',
    link: 'link',
  };
  return (
    <div className="flex gap-3 py-0.5">
      <span className="small w-16 shrink-0 text-right">{names[kind] ?? ''}</span>
      <div
        className={`min-w-0 break-words ${looks[kind]}`}
        style={kind === 'item' ? { paddingLeft: 12 * level } : undefined}
      >
        <bdi>
          {kind === 'item' && '· '}
          {text}
        </bdi>
      </div>
    </div>
  );
}

const SAME_SHOWN = 2;

/** Pairs in their order; long runs that are the same are folded. */
function SideBySide({ first, second }: { first: Shown; second: Shown }) {
  if (first.blocks === null || second.blocks === null)
    return <p className="mt-4">{NOT_KEPT} Measure the domain again.</p>;
  const { pairs, sameRatio } = comparePages(first.blocks, second.blocks);
  const runs: { pairs: BlockPair[]; isSame: boolean }[] = [];
  for (const pair of pairs) {
    const isSame = pair.change === 'same';
    const last = runs.at(-1);
    if (last && last.isSame === isSame) last.pairs.push(pair);
    else runs.push({ pairs: [pair], isSame });
  }
  return (
    <>
      <p className="mt-3" data-testid="same">
        {Math.round(100 * sameRatio)}% of the pieces are the same in both.{' '}
        <span className="small">What only one has is underlined with dots; what is the same is muted.</span>
      </p>
      <div className="mt-2 border-t border-ink" data-testid="changes">
        {runs.map((run, n) => (
          <Run key={n} run={run} />
        ))}
      </div>
    </>
  );
}

function Run({ run: { pairs, isSame } }: { run: { pairs: BlockPair[]; isSame: boolean } }) {
  const hidden = isSame && pairs.length > 2 * SAME_SHOWN + 1 ? pairs.slice(SAME_SHOWN, -SAME_SHOWN) : [];
  const before = hidden.length > 0 ? pairs.slice(0, SAME_SHOWN) : pairs;
  const after = hidden.length > 0 ? pairs.slice(-SAME_SHOWN) : [];
  return (
    <>
      {before.map(pairRow)}
      {hidden.length > 0 && (
        <details>
          <summary className="small py-1 pl-16">{hidden.length} more that are the same</summary>
          {hidden.map(pairRow)}
        </details>
      )}
      {after.map(pairRow)}
    </>
  );
}

const CHANGE_WORDS = {
  same: 'same',
  changed: 'changed',
  first: 'only in the first',
  second: 'only in the second',
} as const;

function pairRow(pair: BlockPair, n: number) {
  const { first, second, change, words } = pair;
  return (
    <div
      key={n}
      data-change={change}
      className={`grid grid-cols-1 lg:grid-cols-2 gap-x-10 border-b border-faint ${change === 'same' ? 'text-muted' : ''}`}
    >
      <div className="min-w-0">
        {first && (
          <Block
            block={first}
            words={
              words ? <Side words={words} side="first" /> : change === 'first' ? <Only>{first.text}</Only> : undefined
            }
          />
        )}
      </div>
      <div className="min-w-0">
        {second && (
          <Block
            block={second}
            words={
              words ? (
                <Side words={words} side="second" />
              ) : change === 'second' ? (
                <Only>{second.text}</Only>
              ) : undefined
            }
          />
        )}
        <span className="sr-only">{CHANGE_WORDS[change]}</span>
      </div>
    </div>
  );
}

const Only = ({ children }: { children: string }) => (
  <span className="underline decoration-damson decoration-dotted underline-offset-3">{children}</span>
);

function Side({ words, side }: { words: WordChange[]; side: 'first' | 'second' }) {
  return words
    .filter((word) => word.in === 'both' || word.in === side)
    .map((word, n) => (word.in === 'both' ? <span key={n}>{word.text}</span> : <Only key={n}>{word.text}</Only>));
}

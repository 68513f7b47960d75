import type { TableView } from '../../../contracts/dossier';
import { ANCHOR_KINDS } from '../../../core/links/anchor-kind-names';
import { plural } from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import { ANCHOR_WORDS } from '../../../services/dossier/tables';
import { EvidenceTable } from '../../../ui/dossier/evidence-table';
import { PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';
import { Columns, Section } from './section';

const SAMPLES = 3;
const ANCHOR_COLUMNS = [
  ['anchor', '50%'],
  ['kind', '24%'],
  ['domains', '14%'],
  ['pages', '12%'],
] as const;
const ADDRESS_COLUMNS = [
  ['address', '70%'],
  ['domains', '16%'],
  ['pages', '14%'],
] as const;

interface WordGroup {
  kind: (typeof ANCHOR_KINDS)[number];
  entries: Dossier['anchors'];
  domains: number;
}
const column = plainColumnsFor<WordGroup>();

/** Words of its links by what they are, each group with its weight; then all of them, and the addresses that were linked. */
export function Anchors({
  dossier,
  anchors,
  addresses,
}: {
  dossier: Dossier;
  anchors: TableView;
  addresses: TableView;
}) {
  if (dossier.anchors.length === 0) return <p>No words of links are known.</p>;
  const groups = ANCHOR_KINDS.map((kind) => {
    const entries = dossier.anchors.filter((entry) => entry.kind === kind);
    return { kind, entries, domains: entries.reduce((sum, entry) => sum + entry.domains, 0) };
  })
    .filter(({ entries }) => entries.length > 0)
    .toSorted((a, b) => b.domains - a.domains);
  const all = groups.reduce((sum, { domains }) => sum + domains, 0);
  return (
    <Columns>
      <Section id="anchor-kinds" title="What the words are" origin="and how many domains use them">
        <PlainTable
          label="Words by what they are"
          isHeadless
          className="table-fixed"
          rows={groups}
          rowId={({ kind }) => kind}
          columns={[
            column('What they are', ({ kind }) => ANCHOR_WORDS[kind], {
              isHead: true,
              className: 'w-36 font-semibold',
            }),
            column(
              'For instance',
              ({ entries }) =>
                entries.slice(0, SAMPLES).map(({ anchor }, n) => (
                  <span key={anchor}>
                    {n > 0 && ', '}
                    <bdi>{anchor || 'no words'}</bdi>
                  </span>
                )),
              { className: 'small truncate' },
            ),
            column(
              'Domains that use them',
              ({ domains }) => (
                <>
                  {plural(domains, 'domain')} <span className="small">{Math.round((100 * domains) / all)}%</span>
                </>
              ),
              { isNumber: true, className: 'w-32' },
            ),
          ]}
        />
      </Section>
      <Section id="addresses" title="What was worth linking to" origin="its addresses by how many domains link there">
        <EvidenceTable
          domain={dossier.name}
          table="addresses"
          label="Old addresses"
          first={addresses}
          shown={ADDRESS_COLUMNS}
        />
      </Section>
      <Section id="anchor-texts" title="All the words" origin="as links say them">
        <EvidenceTable
          domain={dossier.name}
          table="anchors"
          label="Anchor texts"
          first={anchors}
          shown={ANCHOR_COLUMNS}
        />
      </Section>
    </Columns>
  );
}

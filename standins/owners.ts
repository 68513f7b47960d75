import { hash } from './random';
import type { WorldDomain } from './world';

/** What a site shows of its owner, to who looks for it. */
export interface OwnerSigns {
  /** As its record says; null: hidden. */
  registrant: string | null;
  /** Address that its name resolves to. */
  address: string;
  /** Into the head of its pages. */
  script: string;
}

const FIRST = ['Ada', 'Bram', 'Cleo', 'Dov', 'Esme', 'Finn', 'Gwen', 'Hugo', 'Isla', 'Joss', 'Kit', 'Lena'];
const LAST = [
  'Arkwell',
  'Bexcombe',
  'Corvale',
  'Dunmarrow',
  'Elsgood',
  'Farrowby',
  'Gladwick',
  'Hessle',
  'Ivelmere',
  'Jorbeck',
];

/** Sites of one owner give themselves away in different ways: by the record, the machine they stand on, or their counter. */
export function ownerSigns(domain: WorldDomain): OwnerSigns {
  const own = hash(`owner ${domain.name}`);
  if (domain.role === 'network')
    return {
      registrant: own % 3 === 0 ? 'Tarn Marketing Holding' : null,
      address: `127.66.7.${1 + (own % 200)}`,
      script: counter('UA-7700143-1'),
    };
  const name = `${FIRST[own % FIRST.length]} ${LAST[(own >>> 4) % LAST.length]} of ${domain.title}`;
  return {
    registrant: own % 4 === 0 ? name : null,
    address: `127.${own % 60}.${(own >>> 6) % 250}.${1 + ((own >>> 14) % 250)}`,
    script: own % 2 === 0 ? counter(`UA-${1_000_000 + (own % 8_000_000)}-1`) : '',
  };
}

const counter = (id: string) => `<script>count('create', '${id}');</script>`;

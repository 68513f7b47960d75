/** Offsets of the zones that files and registries name, minutes east of UTC. A name that means several zones (IST, CST) is left out. */
export const ZONE_MINUTES: Record<string, number> = {
  z: 0, ut: 0, utc: 0, gmt: 0, wet: 0, west: 60, bst: 60, cet: 60, cest: 120, mez: 60, mesz: 120, eet: 120, eest: 180, msk: 180,
  trt: 180, irst: 210, gst: 240, npt: 345, ict: 420, wib: 420, hkt: 480, sgt: 480, myt: 480, pht: 480, awst: 480, jst: 540, kst: 540,
  aest: 600, aedt: 660, nzst: 720, nzdt: 780, est: -300, edt: -240, cdt: -300, mst: -420, mdt: -360, pst: -480, pdt: -420, brt: -180,
  brst: -120, art: -180, clt: -240, clst: -180, cot: -300, pet: -300, vet: -240, uyt: -180, sast: 120,
}; // biome-ignore format: a table

/** First letters of the months' names, folded, as files of many languages write them. */
const MONTHS: [begins: string, month: number][] = [
  ['jan janv enero gennaio ene gen ocak styczen stycznia leden ledna januar', 1],
  ['feb febr fev fevrier fevereiro subat luty lutego unor unora', 2],
  ['mar marz maerz mars marzo marco mart marzec marca brezen brezna', 3],
  ['apr avr avril abr abril aprile nisan kwiecien kwietnia duben dubna', 4],
  ['may mai mayo maggio mag maio mayis maj maja kveten kvetna', 5],
  ['jun juin junio giugno giu junho haziran czerwiec czerwca cerven cervna juni', 6],
  ['jul juil juillet julio luglio lug julho temmuz lipiec lipca cervenec cervence juli', 7],
  ['aug aout ago agosto agustos sierpien sierpnia srpen srpna', 8],
  ['sep sept septembre set settembre setembro eylul wrzesien wrzesnia zari', 9],
  ['oct okt oktober octobre out outubro ottobre ott ekim pazdziernik pazdziernika rijen rijna octubre', 10],
  ['nov novembre noviembre novembro kasim listopad listopada', 11],
  ['dec dez dezember decembre dic dicembre diciembre dezembro aralik grudzien grudnia prosinec prosince', 12],
];
export const MONTH_NUMBERS = new Map(
  MONTHS.flatMap(([names, month]) => names.split(' ').map((name): [string, number] => [name, month])),
);
const ENGLISH = 'january february march april june july august september october november december'.split(' ');
for (const name of ENGLISH) MONTH_NUMBERS.set(name, MONTH_NUMBERS.get(name.slice(0, 3)) as number);

/** Units that make one word with a number before them. */
const UNITS: [numbers: number[], units: string][] = [
  [range(1, 31), 'th h'],
  [[1, 21, 31], 'st'],
  [[2, 22], 'nd'],
  [[3, 23], 'rd'],
  [range(1, 9), 'd g k x v'],
  [[3, 5, 10, 15, 20, 21, 42, 50, 100], 'k km m cc mm ml'],
  [[1, 2, 4, 8, 16, 32, 64, 128, 256, 512], 'gb tb mb bit'],
  [[240, 360, 480, 720, 1080, 2160], 'p'],
  [[12, 24, 48, 72, 220, 230], 'v h'],
];

/** A number with its unit; oftener the number stands alone. */
export const MEASURED_WORDS: readonly string[] = UNITS.flatMap(([numbers, units]) =>
  numbers.flatMap((n) => units.split(' ').map((unit) => `${n}${unit}`)),
);

/** Words that have figures in them, taken as a whole. */
export const FIGURED_WORDS: readonly string[] =
  `1st 2nd 3rd 2d 3d 4d 3g 4g 5g 2k 4k 5k 8k 10k 24h 7x 10x b2b b2c b2g c2c d2c p2p p2e g2g o2o e2e f2f f2p mp3 mp4 m4a h264 h265 h2o co2 o2 web1
  web2 web3 w3 w3c html5 css3 es6 php7 php8 v8 y2k k8s i18n l10n k12 1on1 2in1 3in1 4in1 9to5 24x7 4x4 4wd 2wd 4ever 4u b4 l8r gr8 m8 w8 k9 k9s
  sk8 sk8r str8 h8 2nite 2day 2moro f1 f2 f3 q1 q2 q3 q4 a3 a4 a5 ps2 ps3 ps4 ps5 n64 3ds 2ds s3 ec2 d3 c4 x86 x64 arm64 amd64 win10 win11 os2
  gpt3 gpt4 gpt5 m2 m3 w2 i9 h1b o1 401k 80s 90s 70s 60s 50s`.split(/\s+/);

function range(from: number, to: number): number[] {
  return Array.from({ length: to - from + 1 }, (_, n) => from + n);
}

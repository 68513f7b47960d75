/** How sums of weights become chances: a softmax of sums over `scale * n ^ power`, n being the words that said something. */
export interface Temperature {
  text: Heat;
  name: Heat;
}

export interface Heat {
  scale: number;
  power: number;
  /** That it says nothing is as likely beforehand as if words of so much weight spoke for that, */
  nothing: number;
  /** and of such words no more than so much counts. */
  mostNothing: number;
  /** A text of few words is likelier to say nothing: so much more at no word, falling evenly to none at 8. */
  short: number;
}

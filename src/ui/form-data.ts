/** Text of a field; empty where the form has none. */
export const textOf = (form: FormData, field: string): string => String(form.get(field) ?? '');

/** What was chosen among some. @throws when it is none of them, which the form does not allow. */
export function chosenOf<Choice extends string>(form: FormData, field: string, among: readonly Choice[]): Choice {
  const chosen = among.find((one) => one === form.get(field));
  if (chosen === undefined) throw new Error(`Choose one of ${among.join(', ')}.`);
  return chosen;
}

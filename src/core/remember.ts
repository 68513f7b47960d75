/** A function of a text that keeps its last answers, at most so many: texts that come again and again are answered once. */
export function remember<Answer>(answer: (text: string) => Answer, most: number): (text: string) => Answer {
  const kept = new Map<string, Answer>();
  return (text) => {
    const known = kept.get(text);
    if (known !== undefined || kept.has(text)) return known as Answer;
    const found = answer(text);
    if (kept.size >= most) kept.clear();
    kept.set(text, found);
    return found;
  };
}

/** Words that go before a name's own, and after it; a start, to be changed by who uses it. */
export const BEFORE = [
  'the', 'my', 'our', 'old', 'new', 'good', 'true', 'best', 'first', 'little', 'north', 'south', 'wild', 'pure', 'plain', 'daily',
] as const; // biome-ignore format: a list
export const AFTER = [
  'guide', 'notes', 'works', 'house', 'yard', 'shop', 'club', 'school', 'guild', 'store', 'lab', 'hub', 'craft', 'trade', 'supply', 'box',
  'path', 'post', 'room', 'barn', 'mill', 'market', 'friends', 'journal', 'weekly', 'desk', 'way', 'land', 'field', 'garden',
] as const; // biome-ignore format: a list

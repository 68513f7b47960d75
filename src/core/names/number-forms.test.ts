import { describe, expect, it } from 'vitest';
import { numberForms } from './number-forms';

describe('numberForms', () => {
  it.each([
    ['bee', ['bee', 'bees']],
    ['bees', ['bees', 'bee']],
    ['apiary', ['apiary', 'apiaries']],
    ['apiaries', ['apiaries', 'apiary', 'apiarie']],
    ['box', ['box', 'boxes']],
    ['boxes', ['boxes', 'boxe', 'box']],
    ['glass', ['glass', 'glasses']],
    ['census', ['census', 'censuses']],
    ['us', ['us']],
    ['knife', ['knife', 'knives']],
    ['penknives', ['penknives', 'penknife']],
    ['teeth', ['teeth', 'tooth']],
    ['grandchild', ['grandchild', 'grandchildren']],
    ['firemen', ['firemen', 'fireman']],
    ['roman', ['roman', 'romans']],
    ['potatoes', ['potatoes', 'potato']],
    ['axes', ['axes', 'axis', 'axe']],
    ['lens', ['lens', 'lenses']],
    ['len', ['len']],
    ['news', ['news']],
    ['sheep', ['sheep']],
  ])('of %s', (word, forms) => expect(numberForms(word).sort()).toEqual([...forms].sort()));
});

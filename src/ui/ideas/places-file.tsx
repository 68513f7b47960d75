'use client';

import { toast } from 'sonner';
import { count, plural } from '../../core/wording/format';
import { call } from '../api';
import { useRedraw } from '../server-state';

/** A table of places that names may say. */
export function PlacesFile({ places }: { places: number }) {
  const redraw = useRedraw();
  const add = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { taken, setAside } = await call('POST /ideas/places', { query: { name: file.name }, file });
      toast(`${plural(taken, 'place')} taken, ${count(setAside)} rejected`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <p className="small mt-4">
      {places === 0 ? 'No places are known.' : `${plural(places, 'place')} are known.`}{' '}
      <label className="set cursor-pointer">
        Add a table of places
        <input type="file" className="sr-only" onChange={(event) => void add(event.target.files?.[0])} />
      </label>{' '}
      with place, people and growth
    </p>
  );
}

export type SearchParams = Promise<Record<string, string | string[] | undefined>>;

/** Query parameters as the framework gives them, as a browser has them. */
export async function parametersOf(searchParams: SearchParams): Promise<URLSearchParams> {
  const parameters = new URLSearchParams();
  for (const [key, value] of Object.entries(await searchParams))
    for (const one of [value ?? []].flat()) parameters.append(key, one);
  return parameters;
}

/** In small letters without accents, with plain quotes: as wordings of registries are compared. */
export function fold(text: string): string {
  return text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .normalize('NFC')
    .replace(/[’‘`]/g, "'")
    .replace(/ł/g, 'l')
    .replace(/ı/g, 'i');
}

/** Hands a file to the browser's downloads. */
export function saveFile(bytes: Uint8Array, name: string): void {
  const address = URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/octet-stream' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10000);
}

/** A text as a file. */
export const saveText = (text: string, name: string): void => saveFile(new TextEncoder().encode(text), name);

/** Data as a file of JSON, as others may read it. */
export const saveJson = (data: unknown, name: string): void => saveText(JSON.stringify(data, undefined, 2), name);

/** What a file is called, without extension, that is made of something with a name. */
export const fileStem = (name: string): string => name.replace(/[^\w-]+/g, '-').toLowerCase();

/** Hands a file to the browser, to be saved under a name. */
export function saveFile(bytes: Uint8Array, name: string): void {
  const address = URL.createObjectURL(new Blob([Uint8Array.from(bytes)]));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 10_000);
}

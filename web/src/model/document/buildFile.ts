/** A build as a file: the same JSON document that the server stores. */

import type { Build } from '../api/types';

export function fileName(name: string): string {
  const plain = name.trim().replace(/[^\p{L}\p{N}-]+/gu, '-');
  return `${plain || 'build'}.ebbrin.json`;
}

export function download(build: Build): void {
  saveAs(fileName(build.name), 'application/json', `${JSON.stringify(build, null, 2)}\n`);
}

/** Hand a text to the browser as a file. */
export function saveAs(name: string, type: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}

/** The document in a file. What is wrong inside is for the server to say. */
export async function readBuild(file: File): Promise<Build> {
  const text = await file.text();
  try {
    return JSON.parse(text) as Build;
  } catch (error) {
    throw new Error(`${file.name} is not JSON: ${(error as Error).message}`);
  }
}

/** A file as text; what is not UTF-8 is refused by the line where it stands. */
export async function readText(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Error('the file is not UTF-8 text; save it as CSV in UTF-8 and try again.');
  }
}

const numbers = new WeakMap<object, number>();
let last = 0;

/** A number for a document, the same as long as it is the same: documents are never changed, only replaced. It stands
 * for the document where a whole one would have to be written out to compare it. */
export function counted(document: object | null): number {
  if (document === null) return 0;
  let number = numbers.get(document);
  if (number === undefined) {
    last += 1;
    number = last;
    numbers.set(document, number);
  }
  return number;
}

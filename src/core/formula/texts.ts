/**
 * Texts as numbers: a text value lies among the numbers of a network as the number that its text was given.
 *
 * One numbering for all networks, so that a text goes from one document to another, or from one state to another, as the number that it is.
 * Numbers are given in the order in which texts first appear: equal texts have equal numbers, and nothing else can be told of them. A text
 * that is once numbered stays: what people write as texts is short and little.
 */
const texts: string[] = [];
const numbers = new Map<string, number>();

/** The number that stands for a text in values. */
export function numberOfText(text: string): number {
  const known = numbers.get(text);
  if (known !== undefined) return known;
  const number = texts.push(text) - 1;
  numbers.set(text, number);
  return number;
}

/** The text of a text value; empty for a number that is none. */
export function textOfNumber(number: number): string {
  return texts[number] ?? '';
}

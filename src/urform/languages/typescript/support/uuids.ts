/**
 * A UUID (RFC 9562), told as 32 hexadecimal digits in five groups; products hold it in lower case. The compiler knows a literal
 * for a text of five groups, and `isUuid` tells whether it is one.
 */
export type Uuid = `${string}-${string}-${string}-${string}-${string}`;

const FORM = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Whether a text is a UUID, its digits in either case. */
export function isUuid(text: string): text is Uuid {
  return FORM.test(text);
}

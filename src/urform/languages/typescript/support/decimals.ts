/**
 * An exact decimal number such as `12.5`, with up to twenty digits before the point and eighteen behind it, as products hold it:
 * without an exponent and without zeros at its end. The compiler knows a literal for one; `decimalOf` reads others.
 */
export type Decimal = `${number}`;

const FORM = /^-?(?:0|[1-9][0-9]{0,19})(?:\.[0-9]{1,18})?$/;

/** The decimal number that a text tells; undefined where it tells none. */
export function decimalOf(text: string): Decimal | undefined {
  if (!FORM.test(text)) {
    return undefined;
  }
  const shortest = text.includes(".") ? text.replace(/\.?0+$/, "") : text;
  return (shortest === "-0" ? "0" : shortest) as Decimal;
}

/** Whether a text is a decimal number as products hold it. */
export function isDecimal(text: string): text is Decimal {
  return decimalOf(text) === text;
}

/** A negative number where a decimal number is smaller than the other, a positive one where it is larger, and else 0. */
export function compareDecimals(one: string, other: string): number {
  const difference = units(one) - units(other);
  return difference < 0n ? -1 : difference > 0n ? 1 : 0;
}

/** How many units of the eighteenth place behind the point it has. */
function units(decimal: string): bigint {
  const [whole = "", fraction = ""] = decimal.split(".");
  return BigInt(whole + fraction.padEnd(18, "0"));
}

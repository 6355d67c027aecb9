/** A colour as CSS Color 4 writes one: hexadecimal, by its name, or by a function of numbers alone. */
const COLOUR =
  /^\s*(#([0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})|[a-z]{3,30}|(rgba?|hsla?|hwb|lab|lch|oklab|oklch|color)\([\w\s.,%/+-]*\))\s*$/i;

/**
 * True for a text that is a colour as CSS writes one. What else could stand where a style takes a colour, such as the address of a
 * picture, is none.
 */
export const isColour = (text: string): boolean => text.length <= 100 && COLOUR.test(text);

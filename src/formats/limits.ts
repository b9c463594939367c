/** What is read of files of other programs: asked before a file is opened, without its reader. */

/** Characters of a drawing. */
export const LARGEST_DXF = 20_000_000;

/** Something the command line cannot work with, in words for the person who called it. */
export class UnreadableFile extends Error {}

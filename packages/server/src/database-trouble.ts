/** What is wrong with a database file, in words, and what would help. */
export class DatabaseTrouble extends Error {}

const BUSY = /SQLITE_(BUSY|LOCKED)|database is locked/i;

/** Whether another program holds the database just now. */
export function isBusy(error: unknown): boolean {
  const {
    code = "",
    message = "",
    driverError,
  } = error as {
    code?: string;
    message?: string;
    driverError?: unknown;
  };
  return (
    BUSY.test(`${code} ${message}`) ||
    (driverError !== undefined && driverError !== null && isBusy(driverError))
  );
}

const HELP: readonly (readonly [RegExp, (file: string) => string])[] = [
  [
    BUSY,
    (f) =>
      `The database ${f} is in use by another program. Stop the other one (perhaps a second Hillcrest), then try again.`,
  ],
  [
    /SQLITE_(NOTADB|CORRUPT)|not a database|malformed/i,
    (f) =>
      `The database ${f} is damaged or is no database. Put a copy of it in its place, or name another file in HILLCREST_DATABASE; Hillcrest changes nothing in it.`,
  ],
  [
    /SQLITE_READONLY|readonly database|EROFS|EACCES|permission denied/i,
    (f) =>
      `The database ${f} may be read but not written. Give this user the right to write the file and its folder.`,
  ],
  [
    /SQLITE_FULL|disk is full|ENOSPC/i,
    (f) =>
      `There is no room left on the disk of the database ${f}. Make room, then try again; what was saved before is safe.`,
  ],
  [
    /SQLITE_CANTOPEN|unable to open|ENOENT|EISDIR|ENOTDIR/i,
    (f) => `The database ${f} cannot be opened. Check that its folder is there and may be written.`,
  ],
  [
    /SQLITE_IOERR|disk I\/O/i,
    (f) =>
      `The disk of the database ${f} does not answer as it should. Check the disk; what was saved before is safe.`,
  ],
];

/** The sentence for an error of the database; nothing when it is none. */
export function databaseTrouble(error: unknown, file: string): string | undefined {
  if (error instanceof DatabaseTrouble) return error.message;
  const {
    code = "",
    message = "",
    driverError,
  } = error as { code?: string; message?: string; driverError?: unknown };
  const text = `${code} ${message}`;
  const found = HELP.find(([form]) => form.test(text));
  if (found) return found[1](file);
  return driverError ? databaseTrouble(driverError, file) : undefined;
}

/** How a command ends, for pipelines: fine, a part that findings stop, something that cannot be read. */
export const FINE = 0;
export const STOPPED = 1;
export const UNREADABLE = 2;

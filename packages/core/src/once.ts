/** Something that is made when it is first asked for, and kept. */
export class Once<T> {
  private made: { readonly value: T } | undefined;

  constructor(private readonly make: () => T) {}

  get value(): T {
    this.made ??= { value: this.make() };
    return this.made.value;
  }
}

// Makers that registries load when they are first asked for.

import { RefusedError } from "./errors.js";

type Maker<F, T> = (fields: F) => T;
type Kind<F, T> = new (fields: F) => T;
/** Gives a maker, or the class of a kind. */
export type MakerLoader<F, T> = () => Maker<F, T> | Kind<F, T>;
type Exported = Readonly<Record<string, unknown>>;
/** A class of which there are kinds. */
type Base<T> = abstract new (...given: never[]) => T;

/** What is imported before it can be asked for. */
export interface Importing {
  load(): Promise<void>;
}

/** A maker that is loaded when it is first asked for, once. A loader that fails or gives no maker is called again. */
export class LoadedMaker<F, T> {
  readonly #owner: string;
  readonly #base: Base<T>;
  readonly #loader: MakerLoader<F, T>;
  #maker: Maker<F, T> | undefined;

  constructor(owner: string, base: Base<T>, loader: MakerLoader<F, T>) {
    if (typeof loader !== "function") {
      throw new RefusedError(owner, "its loader cannot be called");
    }
    this.#owner = owner;
    this.#base = base;
    this.#loader = loader;
  }

  get(): Maker<F, T> {
    if (this.#maker === undefined) {  // «#loaded#»
      const given = this.#loader();  // «#load#»
      this.#maker = makerOf<F, T>(this.#owner, this.#base, given);
    }
    return this.#maker;
  }
}

/** A maker that a module exports. The module is imported once, however many ask; after a failure, again. */
export class ImportedMaker<T> implements Importing {
  readonly #owner: string;
  readonly #base: Base<T>;
  readonly #specifier: string;
  readonly #name: string;
  #maker: Maker<unknown, T> | undefined;
  #importing: Promise<Maker<unknown, T>> | undefined;

  constructor(owner: string, base: Base<T>, specifier: string, name: string) {
    this.#owner = owner;
    this.#base = base;
    this.#specifier = specifier;
    this.#name = name;
  }

  get(): Maker<unknown, T> {
    if (this.#maker === undefined) {
      const reason = `${this.#specifier} is not imported yet, which makeLater does`;
      throw new RefusedError(this.#owner, reason);
    }
    return this.#maker;
  }

  async load(): Promise<void> {
    this.#importing ??= this.#import();
    try {
      this.#maker = await this.#importing;
    } catch (failure) {
      this.#importing = undefined;
      throw failure;
    }
  }

  async #import(): Promise<Maker<unknown, T>> {
    const exported = (await import(this.#specifier)) as Exported;
    const given = exported[this.#name];  // «#look#»
    return makerOf<unknown, T>(this.#owner, this.#base, given);
  }
}

/** What a loader gives as a maker: a function is one, and so is the class of a kind. */
function makerOf<F, T>(
  owner: string,
  base: Base<T>,
  given: unknown,
): Maker<F, T> {
  const isKind = isClass(given) && given.prototype instanceof base;
  if (!isKind && (isClass(given) || typeof given !== "function")) {  // «#check#»
    throw new RefusedError(owner, "its loader gives no maker");
  }
  if (!isKind) {
    return given as Maker<F, T>;
  }
  const kind = given as unknown as Kind<F, T>;
  return (fields) => new kind(fields);
}

/** Classes differ from functions in that their prototype cannot be put in place of another. */
function isClass(given: unknown): given is { readonly prototype: unknown } {
  const known = Object.getOwnPropertyDescriptor(Object(given), "prototype");
  return typeof given === "function" && known?.writable === false;
}

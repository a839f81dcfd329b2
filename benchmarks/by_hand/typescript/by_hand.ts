// What a careful author writes by hand for the same jobs in TypeScript: the yardstick of generated.py.
// The same guarantees: limits told by owner and field, null told as missing, legs owned by their plan.

export class LimitError extends Error {
  constructor(owner: string, field: string, limit: string, bound?: unknown) {
    super(`${owner}.${field}: breaks ${limit} ${String(bound)}`);
  }
}

export class MissingError extends Error {
  constructor(owner: string, fields: readonly string[]) {
    super(`${owner}: missing ${fields.join(", ")}`);
  }
}

function given(owner: string, fields: Record<string, unknown>): void {
  const missing = Object.keys(fields).filter((name) => fields[name] === undefined || fields[name] === null);
  if (missing.length > 0) {
    throw new MissingError(owner, missing);
  }
}

function within(owner: string, field: string, value: number, min: number, max: number): number {
  if (value < min) {
    throw new LimitError(owner, field, "min", min);
  }
  if (value > max) {
    throw new LimitError(owner, field, "max", max);
  }
  return value;
}

function finite(owner: string, field: string, value: number): number {
  if (!Number.isFinite(value)) {
    throw new LimitError(owner, field, "finite");
  }
  return value + 0;
}

function whole(owner: string, field: string, value: number): number {
  if (!Number.isSafeInteger(value)) {
    throw new LimitError(owner, field, "type");
  }
  return value;
}

function notBlank(owner: string, field: string, value: string): string {
  if (/^[\t-\r ]*$/.test(value)) {
    throw new LimitError(owner, field, "not_blank");
  }
  return value;
}

export class Position {
  readonly latitude: number;
  readonly longitude: number;

  constructor(fields: { latitude: number; longitude: number }) {
    given("Position", { latitude: fields.latitude, longitude: fields.longitude });
    this.latitude = within("Position", "latitude", finite("Position", "latitude", fields.latitude), -90, 90);
    this.longitude = within("Position", "longitude", finite("Position", "longitude", fields.longitude), -180, 180);
    Object.freeze(this);
  }
}

interface MarkFields {
  station: number;
  position: Position;
  side?: "port" | "starboard" | undefined;
  remarks?: string | undefined;
  reflective?: boolean | undefined;
}

abstract class Mark {
  readonly station: number;
  readonly position: Position;
  readonly side: "port" | "starboard" | undefined;
  readonly remarks: string | undefined;
  readonly reflective: boolean;

  constructor(fields: MarkFields, reflective = true) {
    given(new.target.name, { station: fields.station, position: fields.position });
    this.station = within("Mark", "station", whole("Mark", "station", fields.station), 1, 9999);
    this.position = fields.position;
    if (fields.side && fields.side !== "port" && fields.side !== "starboard") {
      throw new LimitError("Mark", "side", "choice");
    }
    this.side = fields.side ?? undefined;
    if (fields.remarks && [...fields.remarks].length > 200) {
      throw new LimitError("Mark", "remarks", "max_length", 200);
    }
    this.remarks = fields.remarks ?? undefined;
    this.reflective = fields.reflective ?? reflective;
  }
}

export class Buoy extends Mark {
  readonly draught: number;

  constructor(fields: MarkFields & { draught?: number }) {
    super(fields);
    const draught = finite("Buoy", "draught", fields.draught ?? 1.5);
    if (draught <= 0) {
      throw new LimitError("Buoy", "draught", "above", 0);
    }
    this.draught = draught;
    Object.freeze(this);
  }
}

export class MarkRegistry {
  readonly #makers = new Map<string, (fields: MarkFields) => Mark>([["buoy", (fields) => new Buoy(fields)]]);

  make(key: string, fields: MarkFields): Mark {
    const maker = this.#makers.get(key);
    if (maker === undefined) {
      throw new Error(`unknown key ${key}`);
    }
    return maker(fields);
  }
}

export class Leg {
  #label!: string;
  #hours!: number;

  constructor(fields: { label: string; hours?: number }) {
    given("Leg", { label: fields.label });
    this.label = fields.label;
    this.hours = fields.hours ?? 0;
  }

  get label(): string {
    return this.#label;
  }

  set label(value: string) {
    given("Leg", { label: value });
    this.#label = notBlank("Leg", "label", value);
  }

  get hours(): number {
    return this.#hours;
  }

  set hours(value: number) {
    given("Leg", { hours: value });
    this.#hours = within("Leg", "hours", finite("Leg", "hours", value), 0, Infinity);
  }

  copy(): Leg {
    return new Leg(this);
  }
}

interface PlanFields {
  title: string;
  legs: readonly Leg[];
  crew?: number | undefined;
  tags?: readonly string[] | undefined;
  sheets?: readonly object[] | undefined;
  chart?: object | undefined;
  serial?: number | undefined;
}

export class RefitPlan {
  #title!: string;
  #legs!: readonly Leg[];
  #crew!: number;
  #tags!: readonly string[];
  #sheets!: readonly object[];
  chart: object | undefined;
  #serial: number | undefined;

  constructor(fields: PlanFields) {
    given("RefitPlan", { title: fields.title, legs: fields.legs });
    this.title = fields.title;
    this.legs = fields.legs;
    this.crew = fields.crew ?? 2;
    this.tags = fields.tags ?? [];
    this.sheets = fields.sheets ?? [];
    this.chart = fields.chart ?? undefined;
    this.serial = fields.serial;
  }

  get sheets(): readonly object[] {
    return this.#sheets;
  }

  set sheets(value: readonly object[]) {
    given("RefitPlan", { sheets: value });
    if (value.some((sheet) => sheet === null || sheet === undefined)) {
      throw new MissingError("RefitPlan", ["sheets"]);
    }
    this.#sheets = Object.freeze([...value]);
  }

  get serial(): number | undefined {
    return this.#serial;
  }

  set serial(value: number | undefined) {
    if (value !== undefined && value !== null) {
      whole("RefitPlan", "serial", value);
    }
    this.#serial = value ?? undefined;
  }

  get title(): string {
    return this.#title;
  }

  set title(value: string) {
    given("RefitPlan", { title: value });
    this.#title = notBlank("RefitPlan", "title", value);
  }

  get legs(): readonly Leg[] {
    return this.#legs;
  }

  set legs(value: readonly Leg[]) {
    given("RefitPlan", { legs: value });
    if (value.length < 1) {
      throw new LimitError("RefitPlan", "legs", "min_length", 1);
    }
    if (value.some((leg) => leg === null || leg === undefined)) {
      throw new MissingError("RefitPlan", ["legs"]);
    }
    this.#legs = Object.freeze(value.map((leg) => leg.copy()));
  }

  get crew(): number {
    return this.#crew;
  }

  set crew(value: number) {
    given("RefitPlan", { crew: value });
    this.#crew = within("RefitPlan", "crew", whole("RefitPlan", "crew", value), 1, Infinity);
  }

  get tags(): readonly string[] {
    return this.#tags;
  }

  set tags(value: readonly string[]) {
    given("RefitPlan", { tags: value });
    if (value.some((tag) => tag === null || tag === undefined)) {
      throw new MissingError("RefitPlan", ["tags"]);
    }
    this.#tags = Object.freeze([...value]);
  }

  clone(): RefitPlan {
    const { title, legs, crew, tags, sheets, chart } = this;
    return new RefitPlan({ title, legs, crew, tags, sheets, chart });
  }
}

export class RefitPlanBuilder {
  #title: string | undefined;
  #legs: Leg[] | undefined;
  #crew: number | undefined;
  #tags: string[] | undefined;

  title(title: string): this {
    this.#title = title;
    return this;
  }

  crew(crew: number): this {
    this.#crew = crew;
    return this;
  }

  tags(tags: readonly string[]): this {
    this.#tags = [...tags];
    return this;
  }

  addLeg(leg: Leg): this {
    (this.#legs ??= []).push(leg.copy());
    return this;
  }

  build(): RefitPlan {
    return new RefitPlan({
      title: this.#title as string,
      legs: this.#legs as Leg[],
      crew: this.#crew,
      tags: this.#tags,
    });
  }
}

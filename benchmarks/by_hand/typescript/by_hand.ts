// The same jobs as a careful author does them by hand, in the fastest plain TypeScript: each check stands where it is
// needed, nothing is made only to be looked at. The same limits, copies and errors. The yardstick of generated.py.

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

function missing(owner: string, ...pairs: [string, unknown][]): MissingError {
  return new MissingError(
    owner,
    pairs.filter(([, value]) => value == null).map(([name]) => name),
  );
}

export class Position {
  readonly latitude: number;
  readonly longitude: number;

  constructor(latitude: number, longitude: number) {
    if (latitude == null || longitude == null) {
      throw missing("Position", ["latitude", latitude], ["longitude", longitude]);
    }
    if (!Number.isFinite(latitude)) {
      throw new LimitError("Position", "latitude", "finite");
    }
    if (latitude < -90) {
      throw new LimitError("Position", "latitude", "min", -90);
    }
    if (latitude > 90) {
      throw new LimitError("Position", "latitude", "max", 90);
    }
    if (!Number.isFinite(longitude)) {
      throw new LimitError("Position", "longitude", "finite");
    }
    if (longitude < -180) {
      throw new LimitError("Position", "longitude", "min", -180);
    }
    if (longitude > 180) {
      throw new LimitError("Position", "longitude", "max", 180);
    }
    this.latitude = latitude + 0;
    this.longitude = longitude + 0;
    Object.freeze(this);
  }
}

export type Side = "port" | "starboard";

export interface MarkOptions {
  side?: Side | undefined;
  remarks?: string | undefined;
  reflective?: boolean | undefined;
}

export abstract class Mark {
  readonly station: number;
  readonly position: Position;
  readonly side: Side | undefined;
  readonly remarks: string | undefined;
  readonly reflective: boolean;

  constructor(product: string, station: number, position: Position, options: MarkOptions) {
    if (station == null || position == null) {
      throw missing(product, ["station", station], ["position", position]);
    }
    if (!Number.isSafeInteger(station)) {
      throw new LimitError("Mark", "station", "type");
    }
    if (station < 1) {
      throw new LimitError("Mark", "station", "min", 1);
    }
    if (station > 9999) {
      throw new LimitError("Mark", "station", "max", 9999);
    }
    if (!(position instanceof Position)) {
      throw new LimitError("Mark", "position", "type");
    }
    const { side, remarks, reflective } = options;
    if (side != null && side !== "port" && side !== "starboard") {
      throw new LimitError("Mark", "side", "choice");
    }
    if (remarks != null) {
      if (typeof remarks !== "string") {
        throw new LimitError("Mark", "remarks", "type");
      }
      // Only a text of more units than that can have more code points.
      if (remarks.length > 200 && [...remarks].length > 200) {
        throw new LimitError("Mark", "remarks", "max_length", 200);
      }
    }
    if (reflective != null && typeof reflective !== "boolean") {
      throw new LimitError("Mark", "reflective", "type");
    }
    this.station = station;
    this.position = position;
    this.side = side ?? undefined;
    this.remarks = remarks ?? undefined;
    this.reflective = reflective ?? true;
  }
}

export interface BuoyOptions extends MarkOptions {
  draught?: number | undefined;
}

export class Buoy extends Mark {
  readonly draught: number;

  constructor(station: number, position: Position, options: BuoyOptions = {}) {
    super("Buoy", station, position, options);
    const draught = options.draught ?? 1.5;
    if (!Number.isFinite(draught)) {
      throw new LimitError("Buoy", "draught", "finite");
    }
    if (draught <= 0) {
      throw new LimitError("Buoy", "draught", "above", 0);
    }
    this.draught = draught;
    Object.freeze(this);
  }
}

type MarkMaker = (station: number, position: Position, options: MarkOptions) => Mark;

export class MarkRegistry {
  readonly #makers = new Map<string, MarkMaker>([
    ["buoy", (station, position, options) => new Buoy(station, position, options)],
  ]);

  make(key: string, station: number, position: Position, options: MarkOptions = {}): Mark {
    const maker = this.#makers.get(key);
    if (maker === undefined) {
      throw new Error(`Mark: unknown key ${key}`);
    }
    const made = maker(station, position, options);
    if (!(made instanceof Mark)) {
      throw new Error("Mark: its maker gives none");
    }
    return made;
  }
}

function isBlank(text: string): boolean {
  for (let at = 0; at < text.length; at += 1) {
    const unit = text.charCodeAt(at);
    if (unit !== 32 && (unit < 9 || unit > 13)) {
      return false;
    }
  }
  return true;
}

export class Leg {
  private _label!: string;
  private _hours!: number;

  constructor(label: string, hours = 0) {
    this.label = label;
    this.hours = hours;
  }

  get label(): string {
    return this._label;
  }

  set label(label: string) {
    if (label == null) {
      throw new MissingError("Leg", ["label"]);
    }
    if (typeof label !== "string") {
      throw new LimitError("Leg", "label", "type");
    }
    if (isBlank(label)) {
      throw new LimitError("Leg", "label", "not_blank");
    }
    this._label = label;
  }

  get hours(): number {
    return this._hours;
  }

  set hours(hours: number) {
    if (hours == null) {
      throw new MissingError("Leg", ["hours"]);
    }
    if (!Number.isFinite(hours)) {
      throw new LimitError("Leg", "hours", "finite");
    }
    if (hours < 0) {
      throw new LimitError("Leg", "hours", "min", 0);
    }
    this._hours = hours + 0;
  }

  copy(): Leg {
    return new Leg(this._label, this._hours);
  }
}

export class Chart {
  constructor(readonly title: string) {
    Object.freeze(this);
  }
}

export interface PlanOptions {
  crew?: number | undefined;
  tags?: readonly string[] | undefined;
  sheets?: readonly Chart[] | undefined;
  chart?: Chart | undefined;
  serial?: number | undefined;
}

export class RefitPlan {
  private _title!: string;
  private _legs!: readonly Leg[];
  private _crew!: number;
  private _tags!: readonly string[];
  private _sheets!: readonly Chart[];
  private _chart: Chart | undefined;
  private _serial: number | undefined;

  constructor(title: string, legs: readonly Leg[], options: PlanOptions = {}) {
    if (title == null || legs == null) {
      throw missing("RefitPlan", ["title", title], ["legs", legs]);
    }
    this.title = title;
    this.legs = legs;
    this.crew = options.crew ?? 2;
    this.tags = options.tags ?? [];
    this.sheets = options.sheets ?? [];
    this.chart = options.chart;
    this.serial = options.serial;
  }

  get title(): string {
    return this._title;
  }

  set title(title: string) {
    if (title == null) {
      throw new MissingError("RefitPlan", ["title"]);
    }
    if (typeof title !== "string") {
      throw new LimitError("RefitPlan", "title", "type");
    }
    if (isBlank(title)) {
      throw new LimitError("RefitPlan", "title", "not_blank");
    }
    this._title = title;
  }

  get legs(): readonly Leg[] {
    return this._legs;
  }

  set legs(legs: readonly Leg[]) {
    if (legs == null) {
      throw new MissingError("RefitPlan", ["legs"]);
    }
    if (!Array.isArray(legs)) {
      throw new LimitError("RefitPlan", "legs", "type");
    }
    const own: Leg[] = [];
    for (const leg of legs) {
      if (leg == null) {
        throw new MissingError("RefitPlan", ["legs"]);
      }
      if (!(leg instanceof Leg)) {
        throw new LimitError("RefitPlan", "legs", "each.type");
      }
      own.push(leg.copy());
    }
    if (own.length < 1) {
      throw new LimitError("RefitPlan", "legs", "min_length", 1);
    }
    this._legs = Object.freeze(own);
  }

  get crew(): number {
    return this._crew;
  }

  set crew(crew: number) {
    if (crew == null) {
      throw new MissingError("RefitPlan", ["crew"]);
    }
    if (!Number.isSafeInteger(crew)) {
      throw new LimitError("RefitPlan", "crew", "type");
    }
    if (crew < 1) {
      throw new LimitError("RefitPlan", "crew", "min", 1);
    }
    this._crew = crew;
  }

  get tags(): readonly string[] {
    return this._tags;
  }

  set tags(tags: readonly string[]) {
    if (tags == null) {
      throw new MissingError("RefitPlan", ["tags"]);
    }
    if (!Array.isArray(tags)) {
      throw new LimitError("RefitPlan", "tags", "type");
    }
    const own: string[] = [];
    for (const tag of tags) {
      if (tag == null) {
        throw new MissingError("RefitPlan", ["tags"]);
      }
      if (typeof tag !== "string") {
        throw new LimitError("RefitPlan", "tags", "each.type");
      }
      own.push(tag);
    }
    this._tags = Object.freeze(own);
  }

  get sheets(): readonly Chart[] {
    return this._sheets;
  }

  set sheets(sheets: readonly Chart[]) {
    if (sheets == null) {
      throw new MissingError("RefitPlan", ["sheets"]);
    }
    if (!Array.isArray(sheets)) {
      throw new LimitError("RefitPlan", "sheets", "type");
    }
    const own: Chart[] = [];
    for (const sheet of sheets) {
      if (sheet == null) {
        throw new MissingError("RefitPlan", ["sheets"]);
      }
      if (!(sheet instanceof Chart)) {
        throw new LimitError("RefitPlan", "sheets", "each.type");
      }
      own.push(sheet);
    }
    this._sheets = Object.freeze(own);
  }

  get chart(): Chart | undefined {
    return this._chart;
  }

  set chart(chart: Chart | undefined) {
    if (chart != null && !(chart instanceof Chart)) {
      throw new LimitError("RefitPlan", "chart", "type");
    }
    this._chart = chart ?? undefined;
  }

  get serial(): number | undefined {
    return this._serial;
  }

  set serial(serial: number | undefined) {
    if (serial != null) {
      if (!Number.isSafeInteger(serial)) {
        throw new LimitError("RefitPlan", "serial", "type");
      }
      if (serial < 1) {
        throw new LimitError("RefitPlan", "serial", "min", 1);
      }
    }
    this._serial = serial ?? undefined;
  }

  clone(): RefitPlan {
    return new RefitPlan(this._title, this._legs, {
      crew: this._crew,
      tags: this._tags,
      sheets: this._sheets,
      chart: this._chart,
    });
  }
}

export class RefitPlanBuilder {
  #title: string | undefined;
  #legs: Leg[] | undefined;
  #options: PlanOptions = {};

  title(title: string): this {
    this.#title = title;
    return this;
  }

  crew(crew: number): this {
    this.#options.crew = crew;
    return this;
  }

  tags(tags: readonly string[]): this {
    this.#options.tags = [...tags];
    return this;
  }

  addLeg(leg: Leg): this {
    (this.#legs ??= []).push(leg.copy());
    return this;
  }

  build(): RefitPlan {
    return new RefitPlan(this.#title as string, this.#legs as Leg[], this.#options);
  }
}

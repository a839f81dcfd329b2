import assert from "node:assert/strict";
import { test } from "node:test";

import { type CalendarDate, isCalendarDate, LimitError, Notice, Tide } from "PACKAGE/index.js";

const two = (number: number): string => String(number).padStart(2, "0");

function isDay(year: number, month: number, day: number): boolean {
  const at = new Date(0);
  at.setUTCFullYear(year, month - 1, day);
  return year > 0 && at.getUTCFullYear() === year && at.getUTCMonth() === month - 1 && at.getUTCDate() === day;
}

test("every day is one and no other is", () => {
  for (const year of [0, 1, 4, 99, 100, 400, 1582, 1900, 2000, 2023, 2024, 9999]) {
    for (let month = 0; month < 14; month += 1) {
      for (let day = 0; day < 34; day += 1) {
        const text = `${String(year).padStart(4, "0")}-${two(month)}-${two(day)}`;
        assert.equal(isCalendarDate(text), isDay(year, month, day), text);
      }
    }
  }
});

test("a text is told to be a day before it is taken for one", () => {
  const text: string = "2026-12-01";
  assert.ok(isCalendarDate(text));
  assert.equal(new Tide({ day: text, metres: 1 }).day, "2026-12-01");
});

test("what is like a day is none", () => {
  const others = ["2026-12-01\n", "\u0662\u0660\u0662\u0666-12-01", "2026-1-1", "1e3-12-01", "-001-12-01", "0x7e-12-01"];
  for (const text of [...others, new String("2026-12-01"), new Date(0), ["2026-12-01"], null]) {
    assert.throws(() => new Tide({ day: text as CalendarDate, metres: 1 }));
  }
  const notice = new Notice({ number: "1/26", issued: "2026-01-01" });
  assert.throws(() => {
    notice.issued = "2026-02-30";
  }, LimitError);
  assert.equal(notice.issued, "2026-01-01");
});

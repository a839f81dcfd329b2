// Runs tests against code with a fault, many faults a process: each in a thread of its own, which can be stopped.
// Called by Urform with a JSON file, a list of {number, folder, files, tests}, and the seconds that a trial may take. Prints
// a line of JSON for each: {number, failed, broke}.

import { readFileSync } from "node:fs";
import { pathToFileURL } from "node:url";
import { Worker, isMainThread, parentPort, workerData } from "node:worker_threads";

async function tryAll(path, seconds) {
  const trials = JSON.parse(readFileSync(path, "utf8"));
  for (const trial of trials) {
    console.log(JSON.stringify(await tried(trial, seconds)));
  }
}

function tried({ number, folder, files, tests }, seconds) {
  return new Promise((resolve) => {
    const failed = new Set();
    let running = "";
    let broke = "";
    const options = { workerData: { folder, files, tests }, stdout: true, stderr: true };
    const worker = new Worker(new URL(import.meta.url), options);
    const timer = setTimeout(() => worker.terminate(), seconds * 1000);
    worker.on("message", ({ word, what }) => {
      running = word === "run" ? what : word === "end" ? "" : running;
      if (word === "failed") {
        failed.add(what);
      }
    });
    worker.on("error", (error) => {
      broke = broke || String(error?.stack ?? error);
    });
    worker.on("exit", () => {
      clearTimeout(timer);
      if (running !== "") {
        failed.add(running); // killed or too slow: it counts against the test that was running
      }
      resolve({ number, failed: [...failed], broke: failed.size > 0 ? "" : broke });
    });
  });
}

async function tryOne({ folder, files, tests }) {
  const base = pathToFileURL(`${folder}/`);
  const { tests: collected } = await import(new URL("collect.mjs", base));
  for (const file of files) {
    await import(new URL(file, base));
  }
  for (const name of tests) {
    parentPort.postMessage({ word: "run", what: name });
    try {
      await collected.get(name)({ skip() {} });
    } catch {
      parentPort.postMessage({ word: "failed", what: name });
    }
    parentPort.postMessage({ word: "end", what: name });
  }
}

if (isMainThread) {
  await tryAll(process.argv[2], Number(process.argv[3]));
} else {
  await tryOne(workerData);
}

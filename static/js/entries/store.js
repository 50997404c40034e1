// Entries of the logs as this browser keeps them until the server has named each as stored, or as refused.
// An entry: seq, id, url, fields, user, unit, where (words), page, group, typed (time), state, why, tries.
import { openDB } from "../../vendor/idb.js";

const NAME = "gyrometra";
const ROWS = "entries";
let opened = null;
// Entries that the browser would not keep: they live as long as this page.
const loose = new Map();
let looseSeq = 1e12;

function database() {
  opened ??= openDB(NAME, 1, {
    upgrade(db) {
      db.createObjectStore(ROWS, { keyPath: "seq", autoIncrement: true }).createIndex("id", "id", { unique: true });
      db.createObjectStore("lease", { keyPath: "name" });
    },
    terminated() { opened = null; },
  });
  return opened;
}

// Whether this browser keeps anything: tried with a row that is taken out again.
export async function keepsEntries() {
  try {
    const db = await database();
    await db.put("lease", { name: "tried", text: "x".repeat(4096) });
    await db.delete("lease", "tried");
    return true;
  } catch {
    opened = null;
    return false;
  }
}

// Written down before anything is waited for: a tab that is closed in the same moment loses nothing. The next page
// takes over what was noted and not kept yet; what was kept and even sent by then is one entry all the same.
const NOTE = "gyrometra-entry-";

export function note(entry) {
  try {
    window.localStorage.setItem(NOTE + entry.id, JSON.stringify(entry));
  } catch {
    // full or forbidden: `keep` finds out, and it is said
  }
}

function unnote(id) {
  try {
    window.localStorage.removeItem(NOTE + id);
  } catch {
    // nothing was noted
  }
}

export async function keepWhatWasNoted() {
  let names = [];
  try {
    names = Object.keys(window.localStorage).filter((name) => name.startsWith(NOTE));
  } catch {
    return;
  }
  for (const name of names) {
    const text = window.localStorage.getItem(name);
    if (text) await keep(JSON.parse(text));
  }
}

// Keep an entry before it is sent; the same id again is the entry corrected. False where only this page keeps it.
export async function keep(entry) {
  try {
    const db = await database();
    const tx = db.transaction(ROWS, "readwrite", { durability: "strict" });
    const known = await tx.store.index("id").get(entry.id);
    const row = { ...entry };
    if (known) row.seq = known.seq;
    entry.seq = await tx.store.put(row);
    await tx.done;
    unnote(entry.id);
    return true;
  } catch {
    entry.seq ??= looseSeq++;
    loose.set(entry.id, entry);
    return false;
  }
}

// What became of it while it is still kept: refused, or tried in vain.
export async function mark(id, changes) {
  if (loose.has(id)) loose.set(id, { ...loose.get(id), ...changes });
  else {
    const db = await database();
    const tx = db.transaction(ROWS, "readwrite");
    const row = await tx.store.index("id").get(id);
    if (row) await tx.store.put({ ...row, ...changes });
    await tx.done;
  }
}

// Taken out by its own id, and only when it is found.
export async function remove(id) {
  unnote(id);
  if (loose.delete(id)) return;
  const db = await database();
  const tx = db.transaction(ROWS, "readwrite");
  const key = await tx.store.index("id").getKey(id);
  if (key !== undefined) await tx.store.delete(key);
  await tx.done;
}

// All that is kept, in the order in which it was typed.
export async function all() {
  let rows = [];
  try {
    rows = await (await database()).getAll(ROWS);
  } catch {
    opened = null;
  }
  return [...rows, ...loose.values()].sort((a, b) => a.typed - b.typed || a.seq - b.seq);
}

// One sender for all tabs. Pages without locks (plain HTTP in a shop's own network) take a lease that runs out.
export async function alone(name, work) {
  if (navigator.locks) return navigator.locks.request(name, work);
  const LEASE_MS = 20000;
  const db = await database();
  const tx = db.transaction("lease", "readwrite");
  const held = await tx.store.get(name);
  const free = !held || held.until < Date.now();
  if (free) await tx.store.put({ name, until: Date.now() + LEASE_MS });
  await tx.done;
  if (!free) return undefined;
  try {
    return await work();
  } finally {
    await db.delete("lease", name);
  }
}

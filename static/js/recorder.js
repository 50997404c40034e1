// The sound of a cut: two seconds of the microphone as a WAV, put where a file would be chosen, and sent as one.
"use strict";

const SECONDS = 2;

const says = (form, words) => {
  const line = form.querySelector("[data-record-says]");
  if (line) line.textContent = words;
};

// 16 bits, one channel: what every program reads.
function wavOf(blocks, rate) {
  const count = blocks.reduce((sum, one) => sum + one.length, 0);
  const view = new DataView(new ArrayBuffer(44 + 2 * count));
  const text = (at, words) => [...words].forEach((one, n) => view.setUint8(at + n, one.charCodeAt(0)));
  text(0, "RIFF");
  view.setUint32(4, 36 + 2 * count, true);
  text(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, 2 * rate, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, "data");
  view.setUint32(40, 2 * count, true);
  let at = 44;
  for (const block of blocks)
    for (const value of block) {
      view.setInt16(at, Math.max(-1, Math.min(1, value)) * 32767, true);
      at += 2;
    }
  return new File([view], "cut.wav", { type: "audio/wav" });
}

async function recorded(worklet) {
  const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  const stream = await navigator.mediaDevices.getUserMedia({ audio: plain });
  const context = new AudioContext();
  try {
    await context.resume();
    await context.audioWorklet.addModule(worklet);
    const node = new AudioWorkletNode(context, "blocks");
    const blocks = [];
    const wanted = SECONDS * context.sampleRate;
    const done = new Promise((resolve) => {
      node.port.onmessage = ({ data }) => {
        blocks.push(data);
        if (blocks.reduce((sum, one) => sum + one.length, 0) >= wanted) resolve();
      };
    });
    context.createMediaStreamSource(stream).connect(node);
    await done;
    return wavOf(blocks, context.sampleRate);
  } finally {
    for (const track of stream.getTracks()) track.stop();
    await context.close();
  }
}

function put(form, file) {
  const chosen = new DataTransfer();
  chosen.items.add(file);
  form.querySelector("input[type=file]").files = chosen.files;
  form.requestSubmit();
}

document.addEventListener("click", async (event) => {
  const button = event.target.closest?.("[data-record]");
  if (!button) return;
  const form = button.closest("form");
  if (!navigator.mediaDevices?.getUserMedia || !window.AudioWorkletNode) {
    says(form, "This browser gives no microphone on this address: choose a WAV, or say high or low.");
    return;
  }
  button.disabled = true;
  says(form, `Recording ${SECONDS} seconds: cut.`);
  try {
    put(form, await recorded(button.dataset.worklet));
    says(form, "Recorded; it is worked out.");
  } catch {
    says(form, "No microphone was given: choose a WAV, or say high or low.");
  } finally {
    button.disabled = false;
  }
});

document.addEventListener("change", (event) => {
  const file = event.target.closest?.("[data-hear] input[type=file]");
  if (file?.files.length && event.isTrusted) file.form.requestSubmit();
});

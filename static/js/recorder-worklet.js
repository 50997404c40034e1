// Hands on what the microphone hears, block by block.
class Blocks extends AudioWorkletProcessor {
  process([input]) {
    if (input[0]) this.port.postMessage(input[0].slice());
    return true;
  }
}
registerProcessor("blocks", Blocks);

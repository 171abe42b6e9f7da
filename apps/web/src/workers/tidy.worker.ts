/// <reference lib="webworker" />
/** The worker in which graphs are laid out: the library's own, which answers by itself. */
import 'elkjs/lib/elk-worker.min.js';

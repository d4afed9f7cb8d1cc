/** Lays out the traced tree off the page's thread: the package's own worker, which answers its own messages. */
import 'elkjs/lib/elk-worker.min.js'

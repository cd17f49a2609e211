"""One file a library: each offers what `neatveil.io.decoder` and `neatveil.io.writer` call."""

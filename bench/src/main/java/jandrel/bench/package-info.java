/** Whole-path and core benchmarks, each beside its floor measured in the same run. */
@NullMarked
package jandrel.bench;

import org.jspecify.annotations.NullMarked;

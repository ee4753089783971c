// Package ways has every way of feeding that ships, each registered by its own package.
package ways

import (
	_ "brackmoor/core/feed/dcbus"       // registers itself
	_ "brackmoor/core/feed/derated"     // registers itself
	_ "brackmoor/core/feed/idler"       // registers itself
	_ "brackmoor/core/feed/onephase"    // registers itself
	_ "brackmoor/core/feed/phasebox"    // registers itself
	_ "brackmoor/core/feed/runcap"      // registers itself
	_ "brackmoor/core/feed/singlephase" // registers itself
	_ "brackmoor/core/feed/startrun"    // registers itself
	_ "brackmoor/core/feed/static"      // registers itself
)

package prove

// Lamps is what the lamps of a sequence indicator have on them.
var Lamps = lamps

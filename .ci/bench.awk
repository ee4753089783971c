# Prints what benchmarks said as one table, with the commit it was measured on: figures beside what is aimed at,
# and whether that was kept. Figures are milliseconds, but for those that say otherwise.
BEGIN {
	aim["Compare"] = 60; aim["PeriodicState/1"] = 2; aim["PeriodicState/3"] = 2
	aim["TwentyMachines"] = 2; aim["TwoMotorsOneSecond"] = 8; aim["Fit"] = 4
	aim["Trial/capacitors"] = 8; aim["Trial/idler"] = 8; aim["Trial/drive"] = 8
	aim["SliderToPicture/capacitors p95"] = 33; aim["SliderToPicture/rotary p95"] = 33
	aim["SliderToPicture/drive p95"] = 33; aim["FlipToPicture p95"] = 33
	aim["TurnToPicture p95"] = 33; aim["ScopePan p95"] = 20
	aim["SliderToPicture/capacitors sudden p95"] = 33; aim["SliderToPicture/rotary sudden p95"] = 33
	aim["SliderToPicture/drive sudden p95"] = 33
	aim["Leaving/outline p95"] = 50; aim["Leaving/size p95"] = 50
	aim["Leaving/trial p95"] = 50; aim["Leaving/paper p95"] = 50
	aim["FloorState"] = 2; aim["TogetherSets"] = 300; aim["CircuitSearch"] = 2000; aim["CircuitStates"] = 200
	aim["ManyMachines p95"] = 20; aim["Start"] = 50; aim["FirstPaint p95"] = 1500; aim["FirstPaint kB"] = 200
	print "Measured on " commit ".\n"
	print "| what | ms | aimed at | kept |"
	print "| --- | ---: | ---: | --- |"
}
function row(name, figure) {
	printf "| %s | %s | %s | %s |\n", name, figure < 0.1 ? sprintf("%.4f", figure) : sprintf("%.1f", figure),
		name in aim ? aim[name] : "", !(name in aim) ? "" : figure <= aim[name] ? "yes" : "NO"
}
/^Benchmark.*ns\/op/ {
	name = $1
	sub(/^Benchmark/, "", name)
	sub(/-[0-9]+$/, "", name)
	own = 0
	for (i = 3; i < NF; i++) {
		if ($(i + 1) == "p95-ms") { row(name " p95", $i); own = 1 }
		if ($(i + 1) == "p50-ms") { row(name " p50", $i); own = 1 }
		if ($(i + 1) == "sudden-p95-ms") row(name " sudden p95", $i)
		if ($(i + 1) == "drawn-p95-ms") row(name " drawn p95", $i)
		if ($(i + 1) == "zoom-worst-ms") row(name " zoom, worst", $i)
		if ($(i + 1) == "kB") { row(name " kB", $i); own = 1 }
	}
	if (!own) for (i = 3; i < NF; i++) if ($(i + 1) == "ns/op") row(name, $i / 1e6)
}

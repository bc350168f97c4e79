"""Speed, measured as ratios in one run; never part of a timed test."""

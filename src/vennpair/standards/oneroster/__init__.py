"""OneRoster 1.2: the REST objects of rostering, gradebook and resources, and the CSV set."""

"""Running the whole house on one machine: the database cluster, and the processes of a world."""

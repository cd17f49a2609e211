"""What is done with jobs: queueing, running, finishing, steering. For endpoints, other apps and workers."""

"""Numbers below the pictures: fast power functions and the thread pool that tiles run on."""

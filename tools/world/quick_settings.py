"""The service's settings for a world that nobody keeps: passwords are hashed quickly, and what is
asked may be noted.
"""

import os

from tools.world import asked
from vennpair.service.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

if asked.FILE in os.environ:  # a world that keeps count of what its tests asked
    MIDDLEWARE = ["tools.world.asked.NoteAsked", *MIDDLEWARE]  # noqa: F405

"""The service: a Django project with one app for each step of the job."""

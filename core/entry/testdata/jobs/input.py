from celery import shared
from apscheduler.schedulers import schedule


@app.task(bind=True)
def sweep(self):
    pass


scheduler.add_job("nightly", fit)

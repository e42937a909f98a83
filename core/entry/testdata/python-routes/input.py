from flask import Flask
from django.urls import path

app = Flask(__name__)


@app.route("/stations", methods=["GET", "POST"])
def stations():
    return []


@app.get("/stations/<int:id>")
def station(id):
    return id


app.add_url_rule("/about", view)
urlpatterns = [path("gauges/<slug>/", views.gauge), path("", views.home)]
client.get("/stations")
requests.get("/elsewhere")

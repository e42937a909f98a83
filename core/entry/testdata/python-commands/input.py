import argparse
import click


@click.group()
def cli():
    pass


@cli.command()
def fit_station():
    pass


@cli.command("predict")
def go():
    pass


parser = argparse.ArgumentParser(prog="marshtide")
sub = parser.add_subparsers()
sub.add_parser("list")

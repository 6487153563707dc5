using Froe.Core.Register;
using Xunit;

namespace Froe.Core.Tests;

/// <summary>What the names of files tell of their documents.</summary>
public class FileNameTables
{
    [Theory]
    [InlineData("TO-3301_A2.dxf", "TO-3301_A2|TO-3301|TO")]
    [InlineData("C:\\jobs\\TO-3301 Bearing housing.pdf", "TO-3301 Bearing housing|TO-3301 Bearing|TO-3301|TO")]
    [InlineData("site/plan.v2/4420.01.dxf", "4420.01|4420")]
    [InlineData(".hidden", ".hidden")]
    [InlineData("", "")]
    public void AFileMayBeOfAnyNumberThatItsNameBeginsWithTheLongestFirst(string name, string numbers) => Assert.Equal(numbers, string.Join('|', FileNames.Numbers(name)));

    [Theory]
    [InlineData("TO-3301_A2.dxf", "TO-3301", "")]
    [InlineData("TO-3301_A.2_Bearing housing.dxf", "TO-3301", "Bearing housing")]
    [InlineData("TO-3301 rev B - Bearing housing.pdf", "TO-3301", "Bearing housing")]
    [InlineData("4420-01 Wiring, cabinet 3.pdf", "4420-01", "Wiring, cabinet 3")]
    [InlineData("Bearing housing.dxf", "", "Bearing housing")]
    [InlineData("TO-3301 In situ view.pdf", "TO-3301", "In situ view")]
    [InlineData("photo.jpg", "", "photo")]
    [InlineData("___.pdf", "", "")]
    public void ANewDocumentsNumberAndTitleAreReadFromItsName(string name, string number, string title) => Assert.Equal(new NamedFile(number, title), FileNames.Read(name));

    [Fact]
    public void NoNameGivesANumberOrATitleTooLongToBeOne()
    {
        var read = FileNames.Read(new string('7', 90) + " " + new string('x', 900) + ".pdf");
        Assert.Equal((40, 200), (read.Number.Length, read.Title.Length));
        Assert.All(FileNames.Numbers(new string('7', 90) + "-1 " + new string('x', 900) + ".pdf"), n => Assert.InRange(n.Length, 1, 40));
    }
}
